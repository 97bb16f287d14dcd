import { amountOf, escaped, shell } from '../payments/page';
import type { Payment } from '../payments/payment';
import { CONFIRM_CODE, testCards } from './cards';

const spaced = (number: string) => number.replace(/(\d{4})(?=\d)/g, '$1 ');
const look = { ink: '#27408b', paper: '#e9edf3' };

/** The provider's own page, in its own look. */
export const payPage = (p: Payment, problem = ''): string =>
  shell(
    p,
    'card service',
    look,
    `<form method="post">${problem ? `<p class="bad" role="alert">${escaped(problem)}</p>` : ''}
<label>Card number<input name="number" inputmode="numeric" autocomplete="off" required></label>
<div class="two"><label>Valid until<input name="until" placeholder="MM/YY" autocomplete="off"></label><label>Check number<input name="check" inputmode="numeric" autocomplete="off"></label></div>
<button>Pay ${escaped(amountOf(p))}</button></form>
<form method="post" class="bare"><button class="quiet" name="leave" value="1">Leave without paying</button></form>
<h2>Test cards</h2><table>${testCards.map((c) => `<tr><td>${spaced(c.number)}</td><td>${c.label}</td></tr>`).join('')}</table>`,
  );

/** The bank wants to know whether it is really the card's holder. */
export const confirmPage = (p: Payment, number: string, problem = ''): string =>
  shell(
    p,
    'card service',
    look,
    `<form method="post">${problem ? `<p class="bad" role="alert">${escaped(problem)}</p>` : ''}
<p>Your bank asks you to confirm this payment. The code it sent you is ${CONFIRM_CODE}.</p><input type="hidden" name="number" value="${escaped(number)}">
<label>Code<input name="code" inputmode="numeric" autocomplete="off" required></label><button>Confirm</button></form>
<form method="post" class="bare"><button class="quiet" name="leave" value="1">Leave without paying</button></form>`,
  );
