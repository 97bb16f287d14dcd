import { count, inTill, openTill, type Rule } from '../../rule';
import type { TillFacts } from '../../subject';

/** Why letters do not leave, and what is to be done; nothing where they do. */
function stuck({
  waiting,
  refused,
  givenUpLately,
  connected,
}: TillFacts['letters']): { title: string; step: string } | undefined {
  if (!connected && waiting > 0)
    return {
      title: `${count(waiting, 'letter')} cannot leave: no mail server is set`,
      step: 'Set a mail server on the machine (STALL_SMTP).',
    };
  if (refused > 0)
    return {
      title: `${count(refused, 'letter')} did not leave at the first try: the mail server refused`,
      step: 'Look whether the mail server answers, and takes what this shop sends. It is tried again by itself.',
    };
  return givenUpLately > 0
    ? {
        title: `${count(givenUpLately, 'letter')} never left: the mail server refused again and again`,
        step: 'Look whether the address is right, and send it once more from the order.',
      }
    : undefined;
}

export const lettersStuck: Rule = {
  name: 'letters-stuck',
  about: 'Letters to buyers that do not leave: no mail server, or one that refuses them.',
  weight: 'away',
  reads: ['till'],
  *find(s) {
    const why = stuck(s.till.letters);
    if (!why) return;
    yield {
      about: 'letters',
      place: inTill('Letters'),
      title: why.title,
      meets: 'They paid, and hear nothing.',
      mends: [openTill('letters', 'Open letters', why.step)],
    };
  },
};
