/**
 * A page of the shop keeps a whole screen free for what is still to come, so that nothing below it is seen to move. Once it is
 * there, no more is kept than it takes to leave the foot of the site where it is: below the first screen.
 */
export function letRoomGo(el: HTMLElement): void {
  if (!el.style.minHeight) return;
  const top = Math.max(0, Math.round(el.getBoundingClientRect().top + scrollY));
  el.style.minHeight = `max(0px, calc(100vh - ${top}px))`;
}
