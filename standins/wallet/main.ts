import { escaped, shell } from '../payments/page';
import type { Payment } from '../payments/payment';
import { serve } from '../payments/service';
import { isScenario, scenarios } from './scenarios';

/** A make-believe wallet, on an origin of its own: it redirects, and its notices come as they like. Money it gives back takes two seconds. */

const port = Number(process.env.WALLET_PORT ?? 4607);

const page = (p: Payment, problem = ''): string =>
  shell(
    p,
    'wallet',
    { ink: '#6b2f5b', paper: '#f4ecf1' },
    `<form method="post">${problem ? `<p class="bad" role="alert">${escaped(problem)}</p>` : ''}
${Object.entries(scenarios)
  .map(
    ([scenario, { label }], n) =>
      `<button name="scenario" value="${scenario}"${n > 0 ? ' class="other"' : ''}>${escaped(label)}</button>`,
  )
  .join('\n')}</form>
<form method="post" class="bare"><button class="quiet" name="leave" value="1">Leave without paying</button></form>`,
  );

serve({
  name: 'wallet',
  port,
  key: process.env.WALLET_KEY ?? '',
  secret: process.env.WALLET_NOTICE_SECRET ?? '',
  origin: process.env.WALLET_URL ?? `http://wallet.localhost:${port}`,
  file: process.env.WALLET_FILE,
  refundLate: 2,
  page,
  press(payment, form) {
    const scenario = form.get('scenario') ?? '';
    return isScenario(scenario)
      ? scenarios[scenario].outcome
      : { page: page(payment, 'Press one of these.') };
  },
});
