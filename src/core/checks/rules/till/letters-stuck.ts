import { inTill, openTill, type Rule } from '../../rule';

export const lettersStuck: Rule = {
  name: 'letters-stuck',
  about: 'Letters to buyers that do not leave.',
  weight: 'away',
  reads: ['till'],
  *find(s) {
    if (!s.till.letters) return;
    yield {
      about: 'letters',
      place: inTill('Letters'),
      title: s.till.letters,
      meets: 'They paid, and hear nothing.',
      mends: [openTill('letters', 'Open letters', 'Set a mail server on the machine (STALL_SMTP).')],
    };
  },
};
