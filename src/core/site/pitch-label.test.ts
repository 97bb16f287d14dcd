import fc from 'fast-check';
import { expect, it } from 'vitest';
import type { PagePath } from './paths';
import { listPitches } from './pitch';
import { parsePageFile } from './read-page';

it('no two spots of a page are called the same, however alike its blocks are', () => {
  const block = fc.constantFrom(
    '<p>same</p>',
    '<p></p>',
    '<div><p>same</p><p>same</p></div>',
    '<h2>same</h2>',
    '<img src="a.png" alt="">',
  );
  fc.assert(
    fc.property(fc.array(block, { minLength: 1, maxLength: 12 }), (blocks) => {
      const html = `<!doctype html><html><head><title>x</title></head><body><header><b>Kiln</b></header><main>${blocks.join('')}</main><footer>foot</footer></body></html>`;
      const read = parsePageFile('x.html' as PagePath, Buffer.from(html));
      if ('problem' in read) throw new Error(read.problem);
      const labels = listPitches(read.page).map((p) => p.label);
      expect(new Set(labels).size).toBe(labels.length);
    }),
  );
});
