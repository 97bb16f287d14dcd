import { z } from 'zod';
import { escapeHtml } from '../../html/escape';
import { languages, type Words, wordsIn } from '../../languages/languages';
import { shapeValueLabel } from '../../look/labels';
import {
  cardLooks,
  hovers,
  pictureShapes,
  type Shape,
  shapeOptions,
  usualShape,
  type WidgetShape,
} from '../../look/shape';
import { cardParts } from '../../storefront/views';
import type { OrdinaryLink, SettingField, WriteContext } from '../kind';

/** Settings that several kinds share, and how they are asked for. */
export const heading = z.string().trim().max(120).default('');
export const level = z
  .number()
  .int()
  .min(2, 'A heading level is 2 to 6.')
  .max(6, 'A heading level is 2 to 6.')
  .default(3);
export const columns = z
  .number()
  .int()
  .min(1, 'From 1 to 6 columns.')
  .max(6, 'From 1 to 6 columns.')
  .default(4);
const languageNames = new Intl.DisplayNames('en', { type: 'language' });

/** '' is the site's own language. */
export const lang = z
  .string()
  .regex(
    /^([a-z]{2,3}(-[A-Za-z0-9]{1,8})*)?$/,
    'Enter a language tag like "de", or nothing for the site\u2019s own.',
  )
  .default('');
export const parts = (usual: readonly (typeof cardParts)[number][]) =>
  z.array(z.enum(cardParts)).default([...usual]);

/** What of the shop's shape a widget may have of its own; '' is as the shop has it. */
export const ownShape = {
  cards: z.enum(['', ...cardLooks]).default(''),
  hover: z.enum(['', ...hovers]).default(''),
  picture: z.enum(['', ...pictureShapes]).default(''),
};
const asTheShop: readonly [string, string] = ['', 'As the shop'];
export const shapeFields: readonly SettingField[] = [
  { key: 'cards', label: 'Cards', as: 'choice', options: [asTheShop, ...optionsOf('cards')] },
  { key: 'hover', label: 'Under the pointer', as: 'choice', options: [asTheShop, ...optionsOf('hover')] },
  { key: 'picture', label: 'Shape of pictures', as: 'choice', options: [asTheShop, ...optionsOf('picture')] },
];

function optionsOf(name: WidgetShape): (readonly [string, string])[] {
  return (shapeOptions(name) ?? []).map((value) => [value, shapeValueLabel(name, value)]);
}

interface OwnShape {
  readonly cards?: string;
  readonly hover?: string;
  readonly picture?: string;
}

/** The shape that a widget has: the shop's with what is its own. */
export const shapeWith = (own: OwnShape, shop: Shape | undefined): Shape => ({
  ...(shop ?? usualShape),
  ...(own.cards && { cards: own.cards }),
  ...(own.hover && { hover: own.hover }),
  ...(own.picture && { picture: own.picture }),
});

export const headingField: SettingField = {
  key: 'heading',
  label: 'Heading',
  as: 'text',
  placeholder: 'none',
};
export const levelField: SettingField = {
  key: 'level',
  label: 'Heading level of each',
  as: 'number',
  least: 2,
  most: 6,
};
export const columnsField: SettingField = {
  key: 'columns',
  label: 'Columns at most',
  as: 'number',
  least: 1,
  most: 6,
};
/** What a widget says before its script has run, and where it never runs: in its own language, else in the shop's. */
export const saysIn = (own: { readonly lang: string }, context: Pick<WriteContext, 'lang'>): Words =>
  wordsIn(own.lang || (context.lang ?? 'en'));

export const langField: SettingField = {
  key: 'lang',
  label: 'Speaks',
  as: 'choice',
  options: [
    ['', 'The site\u2019s language'],
    ...languages.map((l): [string, string] => [l, languageNames.of(l) ?? l]),
  ],
};
export const partsField: SettingField = {
  key: 'parts',
  label: 'Shows',
  as: 'parts',
  options: [
    ['picture', 'Picture'],
    ['name', 'Name'],
    ['description', 'Description'],
    ['price', 'Price'],
    ['stock', 'Stock'],
    ['options', 'Options (two at most)'],
    ['quantity', 'Quantity'],
    ['button', 'Button'],
    ['glance', 'Quick look'],
  ],
};

/** The plain link, in a box that keeps the room the widget will need. */
export const room = (height: string, link: OrdinaryLink): string =>
  `<div style="min-height:${height}"><a href="${escapeHtml(link.href)}">${escapeHtml(link.text)}</a></div>`;
