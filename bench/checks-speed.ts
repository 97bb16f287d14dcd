import { availableParallelism } from 'node:os';
import { CheckedShop } from './support/checked-shop';
import { figure, type Measurement } from './support/figure';
import { makeSite } from './support/make-site';

const PAGES = 3_000;

/** How long the checks take over a large site, and after each kind of change, in the threads that the application has. */
export const checksSpeed: Measurement = async () => {
  const shop = await CheckedShop.open(Object.fromEntries(makeSite(PAGES, 7)));
  shop.inThreads();
  try {
    let start = performance.now();
    const first = await shop.check();
    const whole = performance.now() - start;
    const timed = async (change: () => Promise<unknown>) => {
      await change();
      start = performance.now();
      await shop.check();
      return `${Math.round(performance.now() - start)} ms`;
    };
    const page = (await shop.site()).reading.pages[40]?.path ?? '';
    const placed = await timed(() => shop.put(page, 'card', { goods: 'saltmarsh-creel' }));
    const till = await timed(() => shop.till('seller', { name: 'Other' }));
    const goods = await timed(() => shop.world.addGoods('Another', 1200, 3).catch(() => undefined));
    return [
      figure(
        `first run over ${first.pages} pages`,
        `${(whole / 1000).toFixed(1)} s`,
        `${availableParallelism()} cores, two threads`,
        '',
        'under 20 s',
      ),
      figure('after a widget was placed on one page', placed, '', '', 'under 1 s'),
      figure('after a change of the till', till, '', '', 'under 1 s'),
      figure('after a change of goods', goods, '', '', 'under 1 s'),
      figure(
        'memory of the whole process',
        `${Math.round(process.memoryUsage().rss / 2 ** 20)} MB`,
        '',
        '',
        'bounded',
      ),
    ];
  } finally {
    await shop.end();
  }
};
