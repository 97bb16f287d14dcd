/**
 * Faults that sites of registries really have, each looked at by hand in its file (2026-11-27): what the checks say of them is right. `of`
 * narrows it to a page or to words of the finding; without, every finding of the rule was looked at.
 */
export const judged: Readonly<
  Record<string, readonly { readonly rule: string; readonly of?: string; readonly why: string }[]>
> = {
  'argon-design-system-free': [
    { rule: 'menu-fits', why: 'the bar is full: with one item more its two buttons stand below each other' },
    { rule: 'page-alt', why: 'the brand is a link with a picture that has no alt' },
  ],
  'blk-design-system': [
    { rule: 'page-alt', why: 'links with nothing but a picture; alt="Image"' },
    {
      rule: 'menu-differs',
      why: 'four example pages have menus without the item that the shop stands before',
    },
    { rule: 'dead-fragment', why: '#pablo, #link, #blk: names that no element has' },
    { rule: 'dead-link', why: 'docs/1.0/ is not in the package' },
  ],
  'material-kit': [
    {
      rule: 'stands-badly',
      why: 'a page without a bar: the cart stands under the title, in a row of its own',
    },
    { rule: 'dead-fragment', why: '#pablo, #0: names that no element has' },
    { rule: 'dead-link', why: 'presentation.html is not in the package' },
    { rule: 'placeholder-text', why: 'the template’s own text' },
    { rule: 'way-to-shop', why: 'a page of cut-out sections without the menu' },
  ],
  'now-ui-kit': [
    { rule: 'stands-badly', why: 'a list of signs with a title alone: the cart stands under it' },
    { rule: 'page-alt', why: 'links with nothing but a picture; alt="Image"' },
    { rule: 'dead-fragment', why: '#pablo, #link, #0, #button: names that no element has' },
  ],
  'paper-kit-2': [
    { rule: 'stands-badly', why: 'a list of signs with a title alone: the cart stands under it' },
    { rule: 'way-to-cart', of: 'Paper Kit 2', why: 'a page of cut-out sections without a header' },
    { rule: 'way-to-cart', of: 'No way', why: 'the same' },
    { rule: 'way-to-product', why: 'the same page links to nothing of the site' },
    { rule: 'way-to-shop', why: 'the page of icons and the cut-out sections have no menu' },
    { rule: 'dead-link', why: 'href="www.creative-tim.com" without https://' },
    { rule: 'insecure', why: 'fonts and icons by http:' },
    { rule: 'page-alt', why: 'a link with nothing but a picture' },
    { rule: 'dead-fragment', why: '#pablo, #pk, #0, #paper-kit: names that no element has' },
    { rule: 'placeholder-text', why: 'the template’s own text' },
  ],
  'soft-ui-design-system': [
    { rule: 'menu-fits', why: 'the bar is full: its button breaks in two' },
    { rule: 'page-alt', why: 'links with nothing but a picture; alt="image"' },
    { rule: 'dead-fragment', why: '#pricing-soft-ui is on no page' },
  ],
  'startbootstrap-agency': [{ rule: 'placeholder-text', why: 'the template’s own text' }],
  'startbootstrap-blog-home': [{ rule: 'placeholder-text', why: 'the template’s own text' }],
  'startbootstrap-clean-blog': [
    { rule: 'placeholder-text', why: 'the template’s own text' },
    {
      rule: 'menu-unreadable',
      why: 'white letters lie on the picture of each page; the shop’s pages have none',
    },
  ],
  'startbootstrap-coming-soon': [
    { rule: 'stands-badly', why: 'a see-through box of three signs lies over the corner' },
    { rule: 'way-back', why: 'the page holds no link, and so has no header to take' },
  ],
  'startbootstrap-freelancer': [{ rule: 'placeholder-text', why: 'the template’s own text' }],
  'startbootstrap-modern-business': [{ rule: 'placeholder-text', why: 'the template’s own text' }],
  'startbootstrap-one-page-wonder': [{ rule: 'placeholder-text', why: 'the template’s own text' }],
  'startbootstrap-portfolio-item': [
    { rule: 'page-alt', why: 'links with nothing but a picture, alt=""' },
    { rule: 'insecure', why: 'pictures by http:' },
    { rule: 'placeholder-text', why: 'the template’s own text' },
  ],
  'startbootstrap-round-about': [
    { rule: 'insecure', why: 'pictures by http:' },
    { rule: 'placeholder-text', why: 'the template’s own text' },
  ],
  'startbootstrap-scrolling-nav': [{ rule: 'placeholder-text', why: 'the template’s own text' }],
  'startbootstrap-small-business': [{ rule: 'placeholder-text', why: 'the template’s own text' }],
  'startbootstrap-thumbnail-gallery': [
    { rule: 'page-alt', why: 'links with nothing but a picture, alt=""' },
    { rule: 'insecure', why: 'pictures by http:' },
  ],
  'startbootstrap-3-col-portfolio': [
    { rule: 'page-alt', why: 'links with nothing but a picture, alt=""' },
    { rule: 'insecure', why: 'pictures by http:' },
    { rule: 'placeholder-text', why: 'the template’s own text' },
  ],
  'python-markdown-doc': [
    { rule: 'stands-badly', why: 'the menu is a list of lines: the cart stands under it' },
    { rule: 'dead-fragment', why: 'names of headings that were called otherwise in later versions' },
    { rule: 'menu-differs', why: 'each page has a row of previous and next in the place of a menu' },
  ],
  'sqlite3-doc': [
    { rule: 'stands-badly', why: 'the header is a line: the cart stands under it' },
    { rule: 'menu-fits', why: 'at 820 px the row is full' },
    { rule: 'dead-fragment', why: 'names of pragmas and functions that are gone' },
    { rule: 'dead-link', why: 'the folder matrix/ that the package leaves out' },
    { rule: 'page-alt', why: 'links with nothing but a picture without alt' },
    { rule: 'placeholder-text', why: 'examples that say Lorem ipsum' },
    ...['way-to-cart', 'way-to-shop', 'way-to-product'].flatMap((rule) =>
      ['consortium_agreement-20071201', 'copyright-release', 'pressrelease-20071212'].map((page) => ({
        rule,
        of: `${page}.html`,
        why: 'a letter to be printed, without header and links',
      })),
    ),
    { rule: 'menu-differs', why: 'one old page has another row of links' },
  ],
  'debian-policy': [
    { rule: 'stands-badly', why: 'the bar is as high as its line of text: the cart stands under it' },
    { rule: 'menu-fits', why: 'at 820 px the line of text needs another row' },
  ],
};
