/** Each class of ours is a part, too, so that the site's own style sheets can name it: `stall-row::part(button)`. */
export function nameParts(root: ParentNode): void {
  for (const el of root.querySelectorAll('[class]'))
    for (const name of el.classList) if (name.startsWith('stall-')) el.part.add(name.slice(6));
}
