import { list, onPage, openBench, type Rule } from '../../rule';

/** Pages of the shop on which a shopper may want to look at one more thing. */
const steps = new Set(['cart', 'checkout', 'thanks', 'failed', 'lookup', 'account']);

/** The cart or the checkout leads on, and nowhere back. */
export const noWayBack: Rule = {
  name: 'way-back',
  about: 'A page of the shop (cart, checkout, thank-you) without any link back to the site.',
  weight: 'away',
  reads: ['pages'],
  *find(s) {
    const own = new Set(s.pages.filter((p) => p.part === '' || p.part === 'shop').map((p) => p.path));
    const without = s.pages.filter(
      (p) => steps.has(p.part) && !p.links.some((l) => l.to !== undefined && own.has(l.to)),
    );
    const [first] = without;
    if (!first) return;
    yield {
      about: 'back',
      place: onPage(first),
      title: `${list(without.map((p) => p.name))} ${without.length === 1 ? 'has' : 'have'} no way back`,
      meets: 'Who wants to look at one more thing has only the back button of the browser.',
      facts: without.map((p) => p.part),
      mends: [
        openBench(
          first.path,
          'The page takes its header from your site, and that header holds no link. Put a menu or your name with a link into it.',
        ),
      ],
    };
  },
};
