import text from '../../docs/guide.md?raw';
import { DocumentPage } from './document-page';

const FOUND = import.meta.glob<string>('../../docs/screenshots/*.png', {
  query: '?url',
  import: 'default',
  eager: true,
});
const PICTURES = Object.fromEntries(
  Object.entries(FOUND).map(([path, url]) => [path.split('/').pop() ?? '', url]),
);

/** Fifteen jobs, fifteen short ways through. */
export default function GuidePage() {
  return <DocumentPage title="Guide" text={text} pictures={PICTURES} />;
}
