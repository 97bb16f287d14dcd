import { onPage, openBench, type Rule } from '../../rule';

/** Code of a widget was pasted where text goes, and people read it. */
export const codeAsText: Rule = {
  name: 'code-as-text',
  about: 'Code of a widget that stands on the page as text for everybody to read; an editor made text of it.',
  weight: 'broken',
  reads: ['pages'],
  *find(s) {
    for (const p of s.pages)
      for (const l of p.leftovers)
        if (l.is === 'code')
          yield {
            about: `${p.path} ${l.text}`,
            place: onPage(p, l),
            title: 'Code of a widget stands there as text',
            meets: `They read ${l.text.slice(0, 50)} in the middle of the page.`,
            facts: l.text,
            mends: [
              {
                do: 'repair',
                label: 'Take the text off',
                repair: {
                  page: p.path,
                  block: l.block,
                  text: l.text,
                  nth: 0,
                  act: { do: 'text', text: '' },
                  words: `Code taken off: ${l.text.slice(0, 30)}`,
                },
              },
              openBench(p.path, 'Place the widget there instead.', 'Place the widget'),
            ],
          };
  },
};
