import type { PagePath } from './paths';
import type { Survey } from './survey';

export const pageKinds = ['front', 'list', 'post', 'contact', 'gallery', 'legal', 'frames', 'other'] as const;
export type PageKind = (typeof pageKinds)[number];

/** Words in titles and addresses, in the languages of Europe that small sites are written in; common practice. */
const contact =
  /(^|[\W_])(contacts?|contact-?us|kontakt\w*|contacto|contatti|contactez|visit(-?us)?|find-?us|anfahrt|get-?in-?touch)([\W_]|$)/i;
const legal =
  /(^|[\W_])(legal\w*|imprint|impressum|privacy\w*|datenschutz\w*|terms|conditions|agb|cookies?|mentions-?l[eé]gales|confidentialit[eé]|aviso-?legal|privacidad|note-?legali|disclaimer|returns|widerruf\w*|copyright)([\W_]|$)/i;
const gallery =
  /(^|[\W_])(gallery|galerie|galer[ií]a|galleria|photos?|pictures?|fotos?|bilder|portfolio|album)([\W_]|$)/i;
const journal =
  /(^|[\W_])(journal|blog|news|neuigkeiten|aktuelles|posts?|articles?|artikel|actualit[eé]s?|noticias|diary|tagebuch|archive|updates?)([\W_]|$)/i;
/** A date in an address: /2026/04/ or 2026-04-13. */
const dated = /(^|\/)(19|20)\d\d[/-](0?[1-9]|1[0-2])([/-]|$)/;

/**
 * What kind each page of a site is. Front, frames, contact, legal and gallery pages show it themselves; posts and
 * their list only together: a list links to several pages of its own folder, a post is one of those, with a date or
 * with some length to it, in a place that is called a journal or dated.
 */
export function kindsOf(surveys: readonly Survey[], front: PagePath | undefined): Map<PagePath, PageKind> {
  const kinds = new Map<PagePath, PageKind>();
  for (const s of surveys) kinds.set(s.path, kindAlone(s, front));
  const posts = surveys.filter((s) => kinds.get(s.path) === 'other' && isPost(s));
  for (const s of posts) kinds.set(s.path, 'post');
  const isPostPath = new Set(posts.map((p) => p.path));
  for (const s of surveys) {
    const kind = kinds.get(s.path);
    if (kind !== 'other' && kind !== 'post') continue;
    if (isList(s, isPostPath)) kinds.set(s.path, 'list');
  }
  return kinds;
}

function kindAlone(s: Survey, front: PagePath | undefined): PageKind {
  const { hints } = s;
  const text = `${
    s.path
      .replace(/index\.\w+$/i, '')
      .split('/')
      .filter(Boolean)
      .pop()
      ?.replace(/\.\w+$/, '') ?? ''
  } | ${s.title} | ${s.heading}`;
  const words = `${text.split(' | ')[0]} | ${s.heading || s.title}`;
  if (s.frames.length > 1 && hints.letters < 200) return 'frames';
  if (s.path === front) return 'front';
  if (legal.test(words)) return 'legal';
  // A form below a post is for comments; a post about a visit is a post.
  const writes = hints.message && hints.fields <= 8 && hints.letters < 1500;
  if ((contact.test(words) || writes) && !isPost(s)) return 'contact';
  if (
    (gallery.test(words) && hints.pictures >= 4) ||
    (hints.pictures >= 12 && hints.letters < hints.pictures * 60)
  )
    return 'gallery';
  return 'other';
}

function isPost(s: Survey): boolean {
  const inJournal = s.path
    .split('/')
    .slice(0, -1)
    .some((folder) => journal.test(folder));
  const isIndex = /(^|\/)(index|default)\.\w+$/i.test(s.path) && s.path.split('/').length <= 2;
  if (isIndex) return false;
  if (s.hints.type === 'article' || dated.test(s.path)) return true;
  return inJournal && (s.hints.times > 0 || s.hints.articles > 0 || s.hints.letters > 300);
}

/** Links to at least two posts, most of those beside or below it, and is called a journal or stands at the head of their folder. */
function isList(s: Survey, posts: ReadonlySet<string>): boolean {
  const folder = s.path.replace(/[^/]*$/, '');
  const under = s.links.filter((l) => l !== s.path && posts.has(l) && l.startsWith(folder));
  if (under.length < 2) return false;
  const isHead = /(^|\/)(index|default)\.\w+$/i.test(s.path) && folder !== '';
  return (
    isHead ||
    (journal.test(s.path) && !posts.has(s.path)) ||
    (journal.test(s.heading) && s.hints.articles + s.hints.times > 2)
  );
}
