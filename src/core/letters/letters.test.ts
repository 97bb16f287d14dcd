import fc from 'fast-check';
import { parseFragment } from 'parse5';
import { describe, expect, it } from 'vitest';
import { rawText } from '../html/tree';
import { languages } from '../languages/languages';
import { letterFacts, letterFaults, letterKinds, unknownFields } from './kinds';
import { letterOf, writeLetter } from './render';
import { lettersIn } from '../languages/languages';

const figures = {
  text: {
    shop: 'Withybed',
    buyer: 'Ada',
    number: '1001',
    order: 'https://shop.example/o/1',
    tracking: '',
    total: '£4.20',
  },
  goods: [{ name: '1 × Trug', amount: '£4.20' }],
  links: ['order'],
};

describe('letters', () => {
  it('in every language know what they fill in, and say all of it that matters', () => {
    for (const lang of languages) {
      for (const kind of letterKinds) {
        const { subject, text } = lettersIn(lang)[kind];
        expect(unknownFields(kind, `${subject} ${text}`), `${lang} ${kind}`).toEqual([]);
        const names = (of: string) => [...of.matchAll(/\{(\w+)\}/g)].map((m) => m[1]).sort();
        expect(names(text), `${lang} ${kind}`).toEqual(names(lettersIn('en')[kind].text));
      }
    }
  });

  it('leave out a line whose figures are all missing, and keep lines of plain words', () => {
    const { text } = writeLetter(
      { subject: 's', text: 'Hello {buyer},\n\nTracking: {tracking}\n\nBye\n{shop}' },
      figures,
    );
    expect(text).toBe('Hello Ada,\n\nBye\nWithybed\n');
  });

  it('say the same in HTML, with goods as a table and addresses as links', () => {
    const { html, text } = writeLetter(
      { subject: 's', text: 'Hello {buyer},\n\n{goods}\n\n{order}' },
      figures,
    );
    expect(html).toContain('<table');
    expect(html).toContain('<a href="https://shop.example/o/1">');
    expect(text).toContain('1 × Trug: £4.20');
  });

  it('whatever a buyer is called, nothing of it becomes HTML, and the subject stays one line', () => {
    fc.assert(
      fc.property(
        fc.oneof(
          fc.string(),
          fc.constantFrom(
            '<script>alert(1)</script>',
            'A\r\nBcc: x@y.example',
            '"><img onerror=x>',
            '{shop}',
          ),
        ),
        (buyer) => {
          const { subject, html } = writeLetter(
            { subject: 'For {buyer}', text: 'Dear {buyer},\n\n<b>{buyer}</b>' },
            { ...figures, text: { ...figures.text, buyer } },
          );
          expect(subject).not.toMatch(/[\r\n]/);
          expect(html).not.toMatch(/<(script|img|b)\b/i);
          // What a browser shows is what was written; a line without its figure is left out.
          const bare = (s: string) => s.replace(/[\s\p{C}]+/gu, '');
          if (buyer) expect(bare(rawText(parseFragment(html)))).toContain(bare(`Dear${buyer},`));
        },
      ),
    );
  });

  it('names in braces that a letter does not know are told before it is kept', () => {
    expect(unknownFields('sent', '{number} {tracking} {wrong} {}')).toEqual(['wrong', '']);
    expect(letterFaults({ sent: { on: true, subject: '{numbr}', text: '', days: null } })[0]).toContain(
      '{numbr}',
    );
    expect(letterFaults({ sent: { on: true, subject: '{number}', text: '', days: null } })).toEqual([]);
  });

  it('have the owner’s words where there are some, and the usual ones otherwise', () => {
    expect(letterOf('sent', {}, 'de-AT')).toMatchObject({ on: true, subject: lettersIn('de').sent.subject });
    expect(
      letterOf('sent', { sent: { on: false, subject: 'Off it goes', text: '', days: null } }, 'en'),
    ).toMatchObject({ on: false, subject: 'Off it goes', text: lettersIn('en').sent.text });
    expect(letterOf('reminder', {}, 'en').days).toBe(letterFacts.reminder.days);
    expect(lettersIn('pt')).toBe(lettersIn('en'));
  });
});
