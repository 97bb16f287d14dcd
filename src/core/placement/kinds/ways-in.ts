import { z } from 'zod';
import { escapeHtml } from '../../html/escape';
import { defineKind, mainBox } from '../kind';
import { heading, headingField, lang, langField, level, levelField, room } from './common';

/** The small widgets that lead into the shop, or to an order. */

const categorySettings = z.object({
  form: z.enum(['list', 'across']).default('list'),
  counts: z.boolean().default(true),
  heading,
  level,
  lang,
});
export const categoryList = defineKind<z.infer<typeof categorySettings>>({
  kind: 'categories',
  name: 'Category list',
  hint: 'The ways into the catalogue; empty ones hidden.',
  element: 'stall-categories',
  settings: categorySettings,
  fields: [
    {
      key: 'form',
      label: 'Looks like',
      as: 'choice',
      options: [
        ['list', 'A list'],
        ['across', 'A line'],
      ],
    },
    { key: 'counts', label: 'How many are in each', as: 'yes' },
    headingField,
    levelField,
    langField,
  ],
  usualPlace: 'side',
  usualReach: 'page',
  frameHeight: 260,
  // The shop's own page on the site, where it has one; else the plain list.
  link: (s, { shopUrl, shopHref, placementId }) => ({
    href: shopHref || `${shopUrl}/goods?via=${placementId}`,
    text: s.heading || 'What we sell',
  }),
  describe: () => 'Category list',
});

const searchSettings = z.object({ placeholder: z.string().trim().max(60).default(''), heading, level, lang });
export const searchBox = defineKind<z.infer<typeof searchSettings>>({
  kind: 'search',
  name: 'Search',
  hint: 'A box to find products; the shop page shows what it finds.',
  element: 'stall-search',
  settings: searchSettings,
  fields: [
    { key: 'placeholder', label: 'Words in the empty field', as: 'text', placeholder: 'Search' },
    headingField,
    levelField,
    langField,
  ],
  usualPlace: 'header',
  usualReach: 'every',
  frameHeight: 60,
  link: (_, { shopUrl, placementId }) => ({
    href: `${shopUrl}/goods?via=${placementId}`,
    text: 'Search the shop',
  }),
  inner: (s, { shopUrl, placementId }) =>
    room(s.heading ? '6.2rem' : '3rem', {
      href: `${shopUrl}/goods?via=${placementId}`,
      text: 'Search the shop',
    }),
  describe: () => 'Search',
});

const lookupSettings = z.object({ heading, level, lang });
export const orderLookup = defineKind<z.infer<typeof lookupSettings>>({
  kind: 'lookup',
  name: 'Order lookup',
  hint: 'Where an order is, by number and mail address.',
  element: 'stall-lookup',
  settings: lookupSettings,
  fields: [headingField, levelField, langField],
  usualPlace: 'main',
  usualReach: 'page',
  frameHeight: 260,
  link: (_, { shopUrl }) => ({ href: `${shopUrl}/lookup`, text: 'Look up an order' }),
  inner: (s, { shopUrl }) =>
    room(s.heading ? '13.5rem' : '10rem', { href: `${shopUrl}/lookup`, text: 'Look up an order' }),
  describe: () => 'Order lookup',
});

const accountSettings = z.object({
  text: z.string().trim().max(40).default(''),
  form: z.enum(['text', 'icon']).default('text'),
  lang,
});
/** The way to a shopper's own orders. It wears the text around it, so that it can stand beside the links of a header or footer. */
export const accountLink = defineKind<z.infer<typeof accountSettings>>({
  kind: 'account',
  name: 'Account link',
  hint: 'Past orders, for whoever ordered them: by a letter with a link.',
  element: 'stall-account',
  settings: accountSettings,
  fields: [
    {
      key: 'form',
      label: 'Looks like',
      as: 'choice',
      options: [
        ['text', 'Words'],
        ['icon', 'A small figure'],
      ],
    },
    { key: 'text', label: 'Words', as: 'text', placeholder: 'Your orders' },
    langField,
  ],
  usualPlace: 'header',
  usualReach: 'every',
  frameHeight: 44,
  attributes: (s, c) => [
    `placement="${c.placementId}"`,
    `shop="${escapeHtml(c.shopUrl)}"`,
    `account="${escapeHtml(c.accountHref || `${c.shopUrl}/account`)}"`,
    s.form === 'icon' ? 'form="icon"' : '',
    s.text ? `text="${escapeHtml(s.text)}"` : '',
    s.lang ? `lang="${escapeHtml(s.lang)}"` : '',
    // A finger's width and height (WCAG 2.2, 2.5.8), kept before any script has run.
    `style="display:inline-block;min-height:2.75rem;line-height:2.75rem${s.form === 'icon' ? ';min-width:2.75rem;text-align:center' : ''}"`,
  ],
  link: (s, { accountHref, shopUrl }) => ({
    href: accountHref || `${shopUrl}/account`,
    text: s.text || 'Your orders',
  }),
  describe: () => 'Account link',
});

/** What a notice says until its owner has written something: it never goes live. */
export const UNWRITTEN = 'Your own words.';

const noticeSettings = z
  .object({
    text: z.string().trim().max(1000, 'A notice has at most 1,000 characters.').default(''),
    picture: z
      .string()
      .max(500)
      .regex(/^[^\s"'<>]*$/, 'Enter the address of a picture of the site.')
      .default(''),
    pictureAlt: z.string().trim().max(300).default(''),
    href: z
      .string()
      .trim()
      .max(500)
      .regex(
        /^((https?:|mailto:|tel:)[^\s"'<>]+|[/.#?]?[^\s"'<>:]*)$/,
        'Write an address that begins with https:, mailto:, tel: or a slash.',
      )
      .default(''),
  })
  .refine((s) => s.text !== '' || s.picture !== '', 'Write what the notice says, or name its picture.');

/** Words or a picture of the owner's own, where a widget could stand. It needs no script: it is only HTML. */
export const notice = defineKind<z.infer<typeof noticeSettings>>({
  kind: 'notice',
  name: 'Notice',
  hint: 'Words or a picture of your own, on any page and on those of the shop.',
  element: 'stall-notice',
  settings: noticeSettings,
  fields: [
    { key: 'text', label: 'What it says', as: 'long-text' },
    { key: 'picture', label: 'Picture', as: 'picture', placeholder: 'none' },
    { key: 'pictureAlt', label: 'The picture in words', as: 'text' },
    { key: 'href', label: 'Leads to', as: 'text', placeholder: 'nowhere' },
  ],
  usualPlace: 'main',
  usualReach: 'page',
  frameHeight: 80,
  attributes: (_, c) => [`placement="${c.placementId}"`, `style="display:block${mainBox(c)}"`],
  inner: (s) => {
    const picture = s.picture
      ? `<img src="${escapeHtml(s.picture)}" alt="${escapeHtml(s.pictureAlt)}" style="max-width:100%;height:auto">`
      : '';
    const words = s.text
      .split(/\n{2,}/)
      .filter(Boolean)
      .map((p) => `<p>${escapeHtml(p).replace(/\n/g, '<br>')}</p>`)
      .join('');
    return s.href ? `<a href="${escapeHtml(s.href)}">${picture}${words}</a>` : picture + words;
  },
  link: (s, { shopUrl }) => ({ href: s.href || shopUrl, text: s.text || s.pictureAlt }),
  describe: (s) => `Notice: ${s.text.slice(0, 40) || s.pictureAlt || 'a picture'}`,
});
