import { createRequire } from 'node:module';
import { PassThrough } from 'node:stream';
import { setImmediate } from 'node:timers/promises';
import type PDFDocument from 'pdfkit';
import type { Paper } from '../../core/papers/paper';
import { paperWordsIn } from '../../core/languages/languages';
import { fill } from '../../core/languages/languages';

const require = createRequire(import.meta.url);
/** One typeface that knows Latin, Greek and Cyrillic letters; it ships with the application. */
const fonts = {
  plain: require.resolve('dejavu-fonts-ttf/ttf/DejaVuSans.ttf'),
  bold: require.resolve('dejavu-fonts-ttf/ttf/DejaVuSans-Bold.ttf'),
};

const MARGIN = 54;
/** A4, in points (ISO 216: 210 by 297 mm). */
const [WIDTH, HEIGHT] = [595.28, 841.89];
const INNER = WIDTH - 2 * MARGIN;
const FOOT = HEIGHT - MARGIN - 24;

/** Papers as one PDF, each on pages of its own. */
export async function pdfOf(papers: readonly Paper[]): Promise<Buffer> {
  // Loaded when it is first needed: it takes a third of a second, and nobody wants a PDF while the machine starts.
  const { default: PDF } = await import('pdfkit');
  const doc = new PDF({
    size: 'A4',
    margin: MARGIN,
    bufferPages: true,
    autoFirstPage: false,
    lang: papers[0]?.lang ?? 'en',
    info: {
      Title: papers
        .map((p) => `${p.title} ${p.facts[0]?.value ?? ''}`)
        .join(', ')
        .slice(0, 200),
    },
  });
  doc.registerFont('plain', fonts.plain).registerFont('bold', fonts.bold);
  const out = doc.pipe(new PassThrough());
  const chunks: Buffer[] = [];
  out.on('data', (chunk: Buffer) => chunks.push(chunk));
  const done = new Promise<Buffer>((resolve, reject) => {
    out.on('end', () => resolve(Buffer.concat(chunks)));
    out.on('error', reject);
  });
  for (const [n, paper] of papers.entries()) {
    one(doc, paper);
    // Shoppers are served between two papers, however many there are.
    if (n % 4 === 3) await setImmediate();
  }
  doc.end();
  return done;
}

type Doc = InstanceType<typeof PDFDocument>;

function one(doc: Doc, p: Paper): void {
  const from = pagesOf(doc);
  doc.addPage();
  doc
    .font('bold')
    .fontSize(20)
    .fillColor(p.look?.mark ?? '#000')
    .text(p.title, MARGIN, MARGIN)
    .fillColor('#000');
  doc
    .font('plain')
    .fontSize(9)
    .text(p.from.join('\n'), MARGIN + INNER / 2, MARGIN + 4, { width: INNER / 2, align: 'right' });
  const right = doc.y;
  let y = MARGIN + 32;
  for (const f of p.facts) {
    doc
      .fillColor('#555')
      .text(f.label, MARGIN, y, { width: 90 })
      .fillColor('#000')
      .text(f.value, MARGIN + 92, y, { width: INNER / 2 - 92 });
    y = doc.y + 1;
  }
  doc.fontSize(10).text(p.to.join('\n'), MARGIN, Math.max(y, right) + 24, { width: INNER / 2 });
  table(doc, p, doc.y + 24);
  sums(doc, p);
  doc.fontSize(9).fillColor('#444');
  for (const note of p.notes) {
    if (doc.y > FOOT - 20) doc.addPage();
    doc.text(note, MARGIN, doc.y + 8, { width: INNER });
  }
  doc.fillColor('#000');
  number(doc, p, from);
  // Written out as soon as it is whole: memory stays with one paper.
  doc.flushPages();
}

/** Pages so far. */
function pagesOf(doc: Doc): number {
  const { start, count } = doc.bufferedPageRange();
  return start + count;
}

/** Widths: the first column takes what the others leave. */
function widthsOf(doc: Doc, p: Paper): number[] {
  const need = p.columns.map(
    (c, n) => Math.max(doc.widthOfString(c.name), ...p.rows.map((r) => doc.widthOfString(r[n] ?? ''))) + 14,
  );
  const rest = need.slice(1).reduce((a, b) => a + b, 0);
  return [Math.max(120, INNER - rest), ...need.slice(1)];
}

function table(doc: Doc, p: Paper, top: number): void {
  doc.font('plain').fontSize(9);
  const widths = widthsOf(doc, p);
  const row = (cells: readonly string[], y: number): number => {
    let x = MARGIN;
    let bottom = y;
    for (const [n, cell] of cells.entries()) {
      const width = (widths[n] ?? 0) - 8;
      doc.text(cell, x, y, { width, align: p.columns[n]?.right ? 'right' : 'left' });
      bottom = Math.max(bottom, doc.y);
      x += widths[n] ?? 0;
    }
    return bottom + 4;
  };
  const head = (y: number): number => {
    doc.font('bold');
    const below = row(
      p.columns.map((c) => c.name),
      y,
    );
    doc
      .font('plain')
      .moveTo(MARGIN, below)
      .lineTo(MARGIN + INNER, below)
      .lineWidth(1)
      .stroke('#000');
    return below + 6;
  };
  let y = head(top);
  for (const cells of p.rows) {
    const tall =
      Math.max(...cells.map((cell, n) => doc.heightOfString(cell, { width: (widths[n] ?? 0) - 8 }))) + 8;
    if (y + tall > FOOT) {
      doc.addPage();
      y = head(MARGIN);
    }
    y = row(cells, y);
    doc
      .moveTo(MARGIN, y)
      .lineTo(MARGIN + INNER, y)
      .lineWidth(0.5)
      .stroke('#bbb');
    y += 5;
  }
  doc.x = MARGIN;
  doc.y = y + 6;
}

function sums(doc: Doc, p: Paper): void {
  if (doc.y + p.sums.length * 16 > FOOT) doc.addPage();
  for (const s of p.sums) {
    const y = doc.y + (s.strong ? 4 : 0);
    doc.font(s.strong ? 'bold' : 'plain').fontSize(s.strong ? 11 : 9);
    doc.text(s.label, MARGIN + INNER * 0.35, y, { width: INNER * 0.42, align: 'right' });
    const below = doc.y;
    doc.text(s.value, MARGIN + INNER * 0.78, y, { width: INNER * 0.22 - 8, align: 'right' });
    doc.y = Math.max(below, doc.y) + 3;
  }
  doc.font('plain').fontSize(9);
}

/** Page numbers, where there is more than one. */
function number(doc: Doc, p: Paper, from: number): void {
  const pages = pagesOf(doc) - from;
  if (pages < 2) return;
  const w = paperWordsIn(p.lang);
  for (let n = 0; n < pages; n++) {
    doc.switchToPage(from + n);
    // Below the margin: the page must not be broken for its own number.
    doc.page.margins.bottom = 0;
    doc
      .fontSize(8)
      .fillColor('#555')
      .text(fill(w.page, { n: n + 1, x: pages }), MARGIN, HEIGHT - MARGIN, {
        width: INNER,
        align: 'right',
        lineBreak: false,
      })
      .fillColor('#000');
    doc.page.margins.bottom = MARGIN;
  }
}
