import type { PageData } from './page-data';
import { StallDrawn } from './stall-drawn';

/** A price in the middle of the owner's own sentence: text among text, so it stands in the page itself and wears what is around it. */
export class StallPrice extends StallDrawn {
  protected override show({ html }: PageData): void {
    const drawn = document.createElement('template');
    drawn.innerHTML = html[this.wish().widget ?? ''] ?? '';
    const price = drawn.content.textContent?.trim();
    // A product that is gone leaves what was written last: better than a hole in a sentence.
    if (price && price !== this.textContent) this.textContent = price;
  }
}
