import { z } from 'zod';
import { escapeHtml } from '../../html/escape';
import { defineKind } from '../kind';
import { lang, langField, saysIn } from './common';

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
  sign: '<circle cx="6" cy="3.4" r="2.3" fill="currentColor"/><path d="M1.4 10.8c0-5.4 9.2-5.4 9.2 0z" fill="none" stroke="currentColor" stroke-width="1.3"/>',
  drawing: '<circle cx="26" cy="12" r="6.5" class="f"/><path d="M11 34c0-15 30-15 30 0" class="s"/>',
  script: 'more',
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
  link: (s, { accountHref, shopUrl, lang: own }) => ({
    href: accountHref || `${shopUrl}/account`,
    text: s.text || saysIn(s, { lang: own }).account,
  }),
  describe: () => 'Account link',
});
