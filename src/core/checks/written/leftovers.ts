import type { Leftover } from './facts';

/** Code that people read because it was pasted where text goes: tags of ours, and scripts that name ours. */
const code = /<\/?stall-[a-z]+[^>]{0,200}>?|<script[^>]{0,200}stall[^>]{0,80}>/gi;

/** Texts that templates and editors come with, to be written over, in the languages of the sites; common practice. */
const toWriteOver = [
  'lorem ipsum\\b[^.]{0,60}',
  // In square brackets, with "your" or "here" at the start.
  '\\[(?:your|insert|add (?:your|text)|hier (?:ihr|ihre|ihren|text)|ihr|ihre|votre|insérez|uw|jouw|vul|su|tu|inserte|il tuo|la tua|inserisci)\\s[^\\]]{2,60}\\]',
  '(?:your (?:text|product name|description) here|text goes here|replace this text)',
  '(?:blindtext|hier steht ihr text|votre texte ici|hier komt uw tekst|uw tekst hier)',
  '(?:su texto aquí|tu texto aquí|il tuo testo qui|testo di esempio|texto de ejemplo)',
  'XXX+',
];
// Whole words: \b knows no letters but those of English.
const placeholder = new RegExp(`(?<![\\p{L}\\p{N}])(?:${toWriteOver.join('|')})(?![\\p{L}\\p{N}])`, 'giu');
const mayHold = /[<[]|ipsum|here|te(?:x|ks|s)t|XXX/i;

/** What was left in a run of text that is meant for nobody's eyes. */
export function leftoversIn(text: string): Pick<Leftover, 'is' | 'text'>[] {
  if (!mayHold.test(text)) return [];
  return [
    ...[...text.matchAll(code)].map((m) => ({ is: 'code' as const, text: m[0] })),
    ...[...text.matchAll(placeholder)].slice(0, 1).map((m) => ({ is: 'placeholder' as const, text: m[0] })),
  ];
}
