import { z } from 'zod';
import { escapeHtml } from '../../html/escape';
import { defineKind, mainBox } from '../kind';

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
  sign: '<path d="M1 2h10v6.4H6.6L4 10.8V8.4H1z" fill="none" stroke="currentColor" stroke-width="1.3"/><path d="M3.4 4.2h5.2M3.4 6.2h3.4" stroke="currentColor" stroke-width="1.2"/>',
  drawing: '<path d="M9 6h34v20H27l-9 8v-8H9z" class="s"/><path d="M15 13h22M15 19h14" class="s"/>',
  script: 'none',
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
