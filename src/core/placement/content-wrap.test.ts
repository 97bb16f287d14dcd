import { describe, expect, it } from 'vitest';
import type { PagePath } from '../site/paths';
import { parsePageFile } from '../site/read-page';
import { contentWrap } from './content-wrap';

function wrapOf(main: string) {
  const html = `<!doctype html><html><head><title>x</title></head><body><header><b>Kiln</b></header>${main}<footer>foot</footer></body></html>`;
  const read = parsePageFile('x.html' as PagePath, Buffer.from(html));
  if ('problem' in read) throw new Error(read.problem);
  return contentWrap(read.page);
}
const text = '<h2>Of the kiln</h2><p>It takes two days to cool.</p><p>We do not hurry it.</p>';

describe('where the text of a page stands', () => {
  it('is in the main part itself, or in what its maker put around the text', () => {
    expect(wrapOf(`<main>${text}</main>`)).toEqual({ open: '', close: '', inCell: false });
    expect(
      wrapOf(`<main><div class="wrap" id="a" data-x="1"><section class="s">${text}</section></div></main>`),
    ).toEqual({
      open: '<div class="wrap"><section class="s">',
      close: '</section></div>',
      inCell: false,
    });
  });

  it('is around a main part that is a run of texts: nothing more is put around what takes their place', () => {
    const words = '<p>It takes two days to cool, and we do not hurry it.</p>'.repeat(2);
    const at = wrapOf(
      `<div class="text"><ul id="nav"><li><a href="a.html">A</a></li><li><a href="b.html">B</a></li></ul>${words}</div>`,
    );
    expect(at).toEqual({ open: '', close: '', inCell: false });
  });

  it('is not the great picture above it, nor its columns', () => {
    expect(
      wrapOf(
        `<main><div class="hero"><h1>Kiln and kiln and kiln again</h1><p>${'much '.repeat(90)}</p></div><div class="inner">${text}</div><div class="row"><div class="col"><p>a</p><p>b</p></div></div></main>`,
      )?.open,
    ).toBe('<div class="inner">');
  });

  it('keeps the styles that page builders write into elements, but for what stands side by side', () => {
    const column = 'display:flex;flex-direction:column;width:100%';
    expect(
      wrapOf(`<main><div style="${column}"><div style="max-width:980px">${text}</div></div></main>`)?.open,
    ).toBe(`<div style="${column}"><div style="max-width:980px">`);
    expect(wrapOf(`<main><div style="display:flex">${text}</div></main>`)).toBeUndefined();
  });

  it('is nowhere where there is none', () => {
    expect(wrapOf('<main><img src="a.png" alt=""></main>')).toBeUndefined();
  });
});
