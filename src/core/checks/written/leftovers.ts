import type { Leftover } from './facts';

/** Code that people read because it was pasted where text goes: tags of ours, and scripts that name ours. */
const code = /<\/?stall-[a-z]+[^>]{0,200}>?|<script[^>]{0,200}stall[^>]{0,80}>/gi;

/**
 * Texts that templates and editors come with, to be written over: Lorem ipsum, and square brackets with "your … here" in the languages of
 * the sites; common practice.
 */
const placeholder =
  /\blorem ipsum\b[^.]{0,60}|\[(?:your|insert|add|hier|ihr|votre|insérez)[^\]]{2,60}\]|\b(?:your (?:text|product name|description) here|text goes here|replace this text|blindtext|hier steht ihr text|votre texte ici)\b|\bXXX+\b/gi;

/** What was left in a run of text that is meant for nobody's eyes. */
export function leftoversIn(text: string): Pick<Leftover, 'is' | 'text'>[] {
  if (!/[<[]|ipsum|here|text|texte|XXX/i.test(text)) return [];
  return [
    ...[...text.matchAll(code)].map((m) => ({ is: 'code' as const, text: m[0] })),
    ...[...text.matchAll(placeholder)].slice(0, 1).map((m) => ({ is: 'placeholder' as const, text: m[0] })),
  ];
}
