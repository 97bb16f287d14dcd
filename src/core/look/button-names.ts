import type { SeenBox } from './seen';

/** What buttons are called by the classes and ids that makers of sites give them. Common practice in naming. */
const BUTTON = /(^|[\s_-])(btn|button|cta|knopf|bouton|boton)s?([\s_-]|\d|$)/i;
const PRIMARY =
  /(btn|button)[-_]{1,2}(primary|main|cta|solid|filled)|(^|[\s_-])(primary|cta)([\s]|$)|call-?to-?action/i;
/** Names of the button itself: "text-uppercase" beside it says nothing. */
const SECOND =
  /(btn|button)[-_]{1,2}(second|outline|ghost|light|link|text|tertiary|default|plain|alt)|(^|\s)(secondary|outline|ghost|tertiary)(\s|$)/i;
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
