import { formFor } from '../core/languages/plural';
import type { PageData } from './page-data';

/** "1 piece", "3 pieces", as the language says it. */
export const piecesIn = ({ pieces, lang }: PageData['words'], n: number): string =>
  formFor(pieces, n, lang).replace('{n}', String(n));
