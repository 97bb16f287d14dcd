import type { SeenBox } from './seen';

/** What buttons are called by the classes and ids that makers of sites give them. Common practice in naming. */
const BUTTON = /(^|[\s_-])(btn|button|cta|knopf|bouton|boton)s?([\s_-]|\d|$)/i;
const PRIMARY = /primary|main|cta|solid|filled|call-?to-?action/i;
const SECOND = /second|outline|ghost|light|link|text|tertiary|alt\b|default|plain/i;
/** What opens, shuts or turns something of the page is no button in this sense. */
const TOGGLE =
  /toggle|hamburger|burger|close|dismiss|prev|next|arrow|dropdown|accordion|(^|[\s_-])(tabs?|pager?|pagination|page-link|chip|tag|badge|icon|social|skip|menu)([\s_-]|$)/i;

export const isNamedButton = (name: string): boolean => BUTTON.test(name);
export const isToggle = (name: string): boolean => TOGGLE.test(name) && !BUTTON.test(name);

/** What its maker calls a button. @param isControl whether it is a button by its element */
export function calledBy(name: string, isControl: boolean): SeenBox['called'] {
  if (SECOND.test(name)) return 'second';
  if (PRIMARY.test(name)) return 'primary';
  return BUTTON.test(name) || isControl ? 'button' : '';
}
