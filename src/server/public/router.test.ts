import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Call, matcher, route } from './router';

const nothing = () => {};
const named = (name: string) => Object.assign(() => {}, { named: name });

describe('routes', () => {
  const match = matcher([
    route('GET', '/:shop/goods/:slug', nothing),
    route('GET', '/:shop/site/:path{.+}', nothing),
  ]);

  it('match whole paths and decode their parts', () => {
    expect(match('GET', '/w/goods/k%C3%B6rbe')?.params).toEqual({ shop: 'w', slug: 'körbe' });
    expect(match('HEAD', '/w/site/a/b.css')?.params).toEqual({ shop: 'w', path: 'a/b.css' });
    expect(match('POST', '/w/goods/x')).toBeUndefined();
    expect(match('GET', '/w/goods/x/y')).toBeUndefined();
    expect(match('GET', '/w/goods/')).toBeUndefined();
  });

  it('are not found where an address is not written as addresses are', () =>
    expect(match('GET', '/w/goods/%E0%A4%A')).toBeUndefined());

  it('do not begin with a part that is named twice', () =>
    expect(() => matcher([route('GET', '/:a/:a', nothing)])).toThrow('twice'));

  it('go by the first that was named, where several fit', () => {
    const [first, second] = [named('first'), named('second')];
    const both = matcher([route('GET', '/v1/:shop/page', first), route('GET', '/:shop/:slug/page', second)]);
    expect(both('GET', '/v1/w/page')?.handler).toBe(first);
    expect(both('GET', '/x/w/page')?.handler).toBe(second);
  });

  it('give back each part as it was, whatever stands in it', () => {
    fc.assert(
      fc.property(fc.string({ minLength: 1 }), fc.string({ minLength: 1 }), (shop, slug) => {
        const path = `/${encodeURIComponent(shop)}/goods/${encodeURIComponent(slug)}`;
        expect(match('GET', path)?.params).toEqual({ shop, slug });
      }),
    );
  });

  it('are typed by their paths: a name that is not in one does not compile', () => {
    route('GET', '/:shop/site/:path{.+}', (_, c) => {
      const read: [string, string] = [c.params.shop, c.params.path];
      // @ts-expect-error the path has no slug
      return void [read, c.params.slug];
    });
    const needsToken = (_: unknown, c: Call<'token'>) => void c.params.token;
    // @ts-expect-error the path has no token
    route('GET', '/:shop', needsToken);
    expect(needsToken.length).toBe(2);
  });
});
