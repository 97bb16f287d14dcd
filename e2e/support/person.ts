import type { Locator, Page } from '@playwright/test';

/** A small generator of chances with a seed (mulberry32, public domain): a run that failed can be run again. */
export function chances(seed: number): () => number {
  let a = seed >>> 0;
  return () => {
    a = (a + 0x6d2b79f5) >>> 0;
    let t = Math.imul(a ^ (a >>> 15), a | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

/**
 * Somebody at a keyboard: keys come one by one, 60 to 140 ms apart, the mouse moves to what it presses, every request takes
 * 150 to 400 ms. What breaks only for people who are slower than a test breaks here.
 */
export class Person {
  readonly #chance: () => number;

  constructor(
    readonly page: Page,
    seed = 1,
  ) {
    this.#chance = chances(seed);
  }

  between(least: number, most: number): number {
    return Math.round(least + this.#chance() * (most - least));
  }

  /** Makes the network as far away as it is for people. Call it once for a page. */
  async farAway(latency = this.between(150, 400)): Promise<this> {
    const session = await this.page.context().newCDPSession(this.page);
    await session.send('Network.enable');
    await session.send('Network.emulateNetworkConditions', {
      offline: false,
      latency,
      downloadThroughput: -1,
      uploadThroughput: -1,
    });
    return this;
  }

  pause(least = 120, most = 400): Promise<void> {
    return this.page.waitForTimeout(this.between(least, most));
  }

  /** Keys as they are pressed, wherever the focus is. */
  async keys(text: string): Promise<void> {
    for (const key of text) {
      await this.page.keyboard.type(key);
      await this.page.waitForTimeout(this.between(60, 140));
    }
  }

  /** Goes to a field with the mouse, empties it as people do, and types. */
  async write(field: Locator, text: string): Promise<void> {
    await this.press(field);
    if (await field.inputValue()) {
      await this.page.keyboard.press('Control+A');
      await this.page.keyboard.press('Delete');
    }
    await this.keys(text);
  }

  async tab(): Promise<void> {
    await this.page.keyboard.press('Tab');
    await this.pause(80, 200);
  }

  /** Moves the mouse there in steps, and presses for as long as a finger does. */
  async press(what: Locator): Promise<void> {
    await what.scrollIntoViewIfNeeded();
    const box = await what.boundingBox();
    if (!box) throw new Error('there is nothing to press');
    await this.page.mouse.move(
      box.x + box.width * (0.3 + 0.4 * this.#chance()),
      box.y + box.height * (0.3 + 0.4 * this.#chance()),
      { steps: 6 },
    );
    await this.page.mouse.down();
    await this.page.waitForTimeout(this.between(50, 110));
    await this.page.mouse.up();
  }

  /** Chooses from a list, as the browser's own list does: the value, then `input` and `change`. */
  async choose(list: Locator, choice: { label: string } | { value: string }): Promise<void> {
    await list.focus();
    await list.selectOption(choice);
    await this.pause(60, 140);
  }
}
