import text from '../../docs/formulas.md?raw';
import { DocumentPage } from './document-page';

/** Every model with its formula, source and range. */
export default function FormulasPage() {
  return <DocumentPage title="Formulas" text={text} />;
}
