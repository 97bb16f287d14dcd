import type { OutsidePackage } from '../support/outside-sites';

/**
 * Where the regions of pages are, marked by hand while looking at the pages. A mark is "tag#id.class" (the first such
 * element of the body), "last A", "A .. B" (from A to its last sibling of kind B, or to the end with "*"), "A > B" (B in A), or
 * null: the page has no such region.
 */
export interface Marks {
  readonly header: string | null;
  readonly menu: string | null;
  readonly main: string;
  readonly side: string | null;
  readonly footer: string | null;
}

export interface LabelledSite {
  readonly of: OutsidePackage;
  /** Folder in the package. */
  readonly root: string;
  readonly made: string;
  readonly marks: Marks;
  /** Pages looked at, with what is different on each. */
  readonly pages: Readonly<Record<string, Partial<Marks>>>;
}

export const labelledSites: readonly LabelledSite[] = [
  {
    of: { from: 'debian', name: 'debian-policy' },
    root: 'usr/share/doc/debian-policy/policy.html',
    made: 'documents, one bar above and below, a column',
    marks: {
      header: 'div.related',
      menu: 'div.related',
      main: 'div.documentwrapper',
      side: 'div.sphinxsidebar',
      footer: 'div.footer',
    },
    pages: { 'index.html': {}, 'ch-archive.html': {}, 'ch-binary.html': {} },
  },
  {
    of: { from: 'debian', name: 'python-markdown-doc' },
    root: 'usr/share/doc/python-markdown-doc/docs',
    made: 'documents in folders',
    marks: {
      header: 'div.related',
      menu: 'div.related',
      main: 'div.documentwrapper',
      side: 'div.sphinxsidebar',
      footer: 'div.footer',
    },
    pages: { 'index.html': {}, 'extensions/index.html': {}, 'extensions/definition_lists.html': {} },
  },
  {
    of: { from: 'debian', name: 'sqlite3-doc' },
    root: 'usr/share/doc/sqlite3',
    made: 'hand-made, no main element, text in the body itself',
    marks: { header: 'div.nosearch', menu: 'div.mainmenu', main: 'h1 .. *', side: null, footer: null },
    pages: {
      'about.html': {},
      'affcase1.html': {},
      'howtocorrupt.html': { main: 'div.fancy .. *' },
      '34to35.html': {},
    },
  },
  {
    of: { from: 'debian', name: 'exim4-doc-html' },
    root: 'usr/share/doc/exim4-doc-html',
    made: 'generated book',
    marks: { header: 'h1#header', menu: 'ul#nav_flow', main: 'div#inner', side: null, footer: 'div#footer' },
    pages: {
      'spec_html/index.html': {},
      'spec_html/ch-address_rewriting.html': {},
      'spec_html/ch-access_control_lists.html': {},
    },
  },
  {
    of: { from: 'debian', name: 'apache2-doc' },
    root: 'usr/share/doc/apache2-doc/manual/en',
    made: 'generated manual',
    marks: {
      header: 'div#page-header',
      menu: 'div#page-header > p.menu',
      main: 'div#page-content',
      side: null,
      footer: 'div#footer',
    },
    pages: { 'index.html': {}, 'caching.html': {}, 'configuring.html': {}, 'mod/core.html': {} },
  },
  {
    of: { from: 'debian', name: 'debian-reference-en' },
    root: 'usr/share/debian-reference',
    made: 'generated book, tables for navigation',
    marks: { header: 'div.navheader', menu: null, main: 'div.chapter', side: null, footer: 'div.navfooter' },
    pages: { 'ch01.en.html': {}, 'ch02.en.html': {}, 'ch03.en.html': {} },
  },
  {
    of: { from: 'debian', name: 'maint-guide' },
    root: 'usr/share/doc/maint-guide/html',
    made: 'generated book',
    marks: { header: 'div.navheader', menu: null, main: 'div.chapter', side: null, footer: 'div.navfooter' },
    pages: { 'start.en.html': {}, 'first.en.html': {}, 'build.en.html': {} },
  },
  {
    of: { from: 'debian', name: 'git-doc' },
    root: 'usr/share/doc/git-doc',
    made: 'manual pages, no menu',
    marks: { header: 'div#header', menu: null, main: 'div#content', side: null, footer: 'div#footer' },
    pages: { 'git-add.html': {}, 'git-show.html': {}, 'git-cat-file.html': {} },
  },
  {
    of: { from: 'npm', name: 'startbootstrap-business-casual' },
    root: 'package/dist',
    made: 'template, sections without a main element',
    marks: {
      header: 'header',
      menu: 'ul.navbar-nav',
      main: 'section .. section',
      side: null,
      footer: 'footer',
    },
    pages: { 'index.html': {}, 'about.html': {}, 'products.html': {}, 'store.html': {} },
  },
  {
    of: { from: 'npm', name: 'startbootstrap-clean-blog' },
    root: 'package/dist',
    made: "template, the page's own head in a header element",
    marks: {
      header: 'nav#mainNav',
      menu: 'ul.navbar-nav',
      main: 'header.masthead .. div',
      side: null,
      footer: 'footer',
    },
    pages: {
      'index.html': {},
      'about.html': { main: 'main' },
      'contact.html': { main: 'main' },
      'post.html': { main: 'header.masthead .. article' },
    },
  },
  {
    of: { from: 'npm', name: 'startbootstrap-modern-business' },
    root: 'package/dist',
    made: 'template, menu inside the main element',
    marks: {
      header: 'nav.navbar',
      menu: 'ul.navbar-nav',
      main: 'main > header .. section',
      side: null,
      footer: 'footer',
    },
    pages: {
      'index.html': {},
      'about.html': {},
      'blog-home.html': { main: 'main > section .. section' },
      'faq.html': { main: 'main > section .. section' },
    },
  },
];
