/**
 * Stands for helpers that the PDF package would load for web pages and pictures in a PDF. The sheet
 * uses neither, so they are not shipped.
 */
export default function notShipped(): never {
  throw new Error('this part of the PDF package is not shipped');
}
