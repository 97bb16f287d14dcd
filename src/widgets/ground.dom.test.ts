import { afterEach, describe, expect, it } from 'vitest';
import { onGround } from './ground';

const grounds = [
  ['#1b1b1b', '--stall-ink:#eee'],
  ['#f2e2bc', '--stall-ink:#321'],
] as const;

afterEach(() => document.body.replaceChildren());

function standing(html: string): Element {
  document.body.innerHTML = html;
  const el = document.querySelector('b');
  if (!el) throw new Error('nothing stands there');
  return el;
}

describe('what a widget stands on', () => {
  it('is the nearest ground above it that is known', () => {
    expect(onGround(standing('<div style="background:#1b1b1b"><p><b></b></p></div>'), grounds)).toBe(
      '--stall-ink:#eee',
    );
    expect(
      onGround(
        standing('<div style="background:#1b1b1b"><p style="background:rgb(243,226,189)"><b></b></p></div>'),
        grounds,
      ),
    ).toBe('--stall-ink:#321');
  });

  it('is nothing to speak of where it is another one, seen through, or a picture', () => {
    expect(onGround(standing('<div style="background:#ffffff"><b></b></div>'), grounds)).toBe('');
    expect(
      onGround(
        standing('<div style="background:#1b1b1b"><p style="background:rgba(255,0,0,.2)"><b></b></p></div>'),
        grounds,
      ),
    ).toBe('--stall-ink:#eee');
    expect(
      onGround(
        standing('<div style="background:#1b1b1b"><p style="background-image:url(x.png)"><b></b></p></div>'),
        grounds,
      ),
    ).toBe('');
    expect(onGround(standing('<b></b>'), grounds)).toBe('');
    expect(onGround(standing('<div style="background:#1b1b1b"><b></b></div>'), [])).toBe('');
  });

  it('is found through shadow roots', () => {
    const holder = standing('<div style="background:#1b1b1b"><b></b></div>');
    const inner = document.createElement('i');
    const host = document.createElement('div');
    holder.parentElement?.append(host);
    host.attachShadow({ mode: 'open' }).append(inner);
    expect(onGround(inner, grounds)).toBe('--stall-ink:#eee');
  });
});
