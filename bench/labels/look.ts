import type { OutsidePackage } from '../support/outside-sites';

/** A site of a registry whose look is measured, and what was seen on its pages by hand. */
export interface LookSite {
  readonly of: OutsidePackage;
  /** Folder in the package. */
  readonly root: string;
  readonly pages: readonly string[];
  /** Fill of the button that a visitor takes for the main one; nothing where it has none. */
  readonly button?: string;
  /** What the site stands on, where the longest paragraph stands on something else. */
  readonly ground?: string;
}

const template = (name: string, root: string, pages: readonly string[], button?: string): LookSite => ({
  of: { from: 'npm', name },
  root,
  pages,
  ...(button && { button }),
});
const documents = (name: string, root: string, pages: readonly string[]): LookSite => ({
  of: { from: 'debian', name },
  root,
  pages,
});

export const lookSites: readonly LookSite[] = [
  template('argon-design-system-free', 'package', ['index.html', 'examples/landing.html'], '#5e72e4'),
  template('blk-design-system', 'package', ['index.html', 'examples/landing-page.html'], '#e14eca'),
  template('material-kit', 'package', ['index.html', 'examples/landing-page.html'], '#9c27b0'),
  template('now-ui-kit', 'package', ['index.html', 'examples/landing-page.html'], '#f96332'),
  // Seen in a picture: white, with one dark band that holds the longest paragraph.
  {
    ...template('paper-kit-2', 'package', ['index.html', 'examples/landing.html'], '#f5593d'),
    ground: '#ffffff',
  },
  template('soft-ui-design-system', 'package', ['presentation.html'], '#cb0c9f'),
  template('startbootstrap-agency', 'package/dist', ['index.html'], '#ffc800'),
  template('startbootstrap-blog-home', 'package/dist', ['index.html'], '#0d6efd'),
  template('startbootstrap-blog-post', 'package/dist', ['index.html'], '#0d6efd'),
  template('startbootstrap-business-casual', 'package/dist', ['index.html', 'about.html'], '#e6a756'),
  template('startbootstrap-business-frontpage', 'package/dist', ['index.html'], '#0d6efd'),
  template(
    'startbootstrap-clean-blog',
    'package/dist',
    ['index.html', 'about.html', 'contact.html', 'post.html'],
    '#0085a1',
  ),
  template('startbootstrap-coming-soon', 'package/dist', ['index.html'], '#2a5555'),
  template('startbootstrap-creative', 'package/dist', ['index.html'], '#f4623a'),
  template('startbootstrap-freelancer', 'package/dist', ['index.html'], '#1abc9c'),
  template('startbootstrap-full-slider', 'package', ['index.html']),
  template('startbootstrap-full-width-pics', 'package/dist', ['index.html']),
  template('startbootstrap-grayscale', 'package/dist', ['index.html'], '#64a19d'),
  template('startbootstrap-heroic-features', 'package/dist', ['index.html'], '#0d6efd'),
  template('startbootstrap-landing-page', 'package/dist', ['index.html'], '#0d6efd'),
  template(
    'startbootstrap-modern-business',
    'package/dist',
    ['index.html', 'about.html', 'contact.html', 'faq.html'],
    '#0d6efd',
  ),
  template('startbootstrap-new-age', 'package/dist', ['index.html'], '#2937f0'),
  template('startbootstrap-one-page-wonder', 'package/dist', ['index.html'], '#ee0979'),
  template('startbootstrap-portfolio-item', 'package', ['index.html']),
  template('startbootstrap-resume', 'package/dist', ['index.html']),
  template('startbootstrap-round-about', 'package', ['index.html']),
  template('startbootstrap-scrolling-nav', 'package/dist', ['index.html'], '#f8f9fa'),
  template('startbootstrap-small-business', 'package/dist', ['index.html'], '#0d6efd'),
  // Seen in a picture: white and nearly white, with a band of blue that holds most letters.
  {
    ...template('startbootstrap-stylish-portfolio', 'package/dist', ['index.html'], '#1d809f'),
    ground: '#ffffff',
  },
  template('startbootstrap-thumbnail-gallery', 'package', ['index.html']),
  template('startbootstrap-3-col-portfolio', 'package', ['index.html']),
  documents('debian-policy', 'usr/share/doc/debian-policy/policy.html', ['index.html', 'ch-archive.html']),
  documents('python-markdown-doc', 'usr/share/doc/python-markdown-doc/docs', [
    'index.html',
    'extensions/index.html',
  ]),
  documents('sqlite3-doc', 'usr/share/doc/sqlite3', ['about.html', 'affcase1.html']),
];
