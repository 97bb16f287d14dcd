import { cleanup, render } from '@testing-library/react';
import { useRef } from 'react';
import { afterEach, expect, it, vi } from 'vitest';
import { hiddenFrame } from './frames';
import { type Layout, layoutSaid, PAGE_MAY, usePageSays } from './page-says';

afterEach(cleanup);

const good = {
  stall: 'layout',
  height: 900,
  anchors: [{ x: 0, y: 1, w: 2, h: 3, n: 40 }],
  widgets: [],
  spot: null,
};

function heard(): { hear: ReturnType<typeof vi.fn>; frame: HTMLIFrameElement } {
  const hear = vi.fn<(said: Layout) => void>();
  function Page() {
    const frame = useRef<HTMLIFrameElement>(null);
    usePageSays(layoutSaid, [frame], hear);
    return <iframe ref={frame} title="page" />;
  }
  const frame = render(<Page />).container.querySelector('iframe');
  if (!frame) throw new Error('no frame');
  return { hear, frame };
}
const say = (data: unknown, source: Window | null) =>
  window.dispatchEvent(new MessageEvent('message', { data, source }));

it('hears its own frame, in the shape that our script gives it', () => {
  const { hear, frame } = heard();
  say(good, frame.contentWindow);
  expect(hear.mock.calls).toEqual([[good, frame]]);
});

it.each([
  ['nothing', null],
  ['text', 'layout'],
  ['no boxes', { stall: 'layout', height: 900 }],
  ['boxes that are none', { ...good, anchors: [{ n: 1 }] }],
  ['a height that is none', { ...good, height: 'very' }],
  ['no number', { ...good, height: Number.NaN }],
  ['something else', { ...good, stall: 'menu' }],
])('takes %s for nothing, whatever script of the page says it', (_, data) => {
  const { hear, frame } = heard();
  say(data, frame.contentWindow);
  expect(hear).not.toHaveBeenCalled();
});

it('hears nobody else', () => {
  const { hear } = heard();
  say(good, window);
  say(good, null);
  expect(hear).not.toHaveBeenCalled();
});

it('lets a framed page neither lead the office away nor open windows', () => {
  expect(hiddenFrame(100, 100).getAttribute('sandbox')).toBe(PAGE_MAY);
  expect(PAGE_MAY).not.toMatch(/top-navigation|popups|modals|downloads/);
});
