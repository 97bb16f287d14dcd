import { type Look, valueIn } from './look';
import { nearestPassing, needs } from './remedy';

/** What of the look letters and papers wear: both are read on white. */
export interface PrintLook {
  readonly font: string;
  readonly headingFont: string;
  readonly ink: string;
  /** The colour of the site's buttons, for headings' rules and for links. */
  readonly mark: string;
  readonly line: string;
}

const PAPER = '#ffffff';
/** The site's colour as near as it can be read on paper. */
const onPaper = (colour: string, need: number, usual: string): string =>
  nearestPassing(colour, PAPER, need)?.colour ?? usual;

const faces = (family: string, usual: string): string =>
  family === '' || family === 'inherit' ? usual : family;

export const printLook = (l: Look): PrintLook => ({
  font: faces(valueIn(l, 'font'), 'Georgia, serif'),
  headingFont: faces(valueIn(l, 'heading-font'), 'Georgia, serif'),
  ink: onPaper(valueIn(l, 'ink'), needs.text, '#1c211d'),
  mark: onPaper(valueIn(l, 'accent'), needs.text, '#1c211d'),
  line: onPaper(valueIn(l, 'line'), 1.3, '#c9c9c2'),
});
