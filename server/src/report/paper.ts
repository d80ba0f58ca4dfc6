import { createRequire } from 'node:module';
import {
  FULL_DAY,
  markOf,
  momentIn,
  moneyIn,
  numberIn,
  resaid,
  shownIn,
  showIn,
  unitIn,
  type Base,
  type UnitSystem,
} from '@tally-stone/core';
import type { ShopRules } from '@tally-stone/contract';
import PDFDocument from 'pdfkit';

const fontFile = (name: string): string =>
  createRequire(import.meta.url).resolve(`dejavu-fonts-ttf/ttf/${name}.ttf`);
/** Fonts by their files: by another name the package would open the file anew for every cell of a table. */
export const TEXT = fontFile('DejaVuSansCondensed');
export const STRONG = fontFile('DejaVuSansCondensed-Bold');

/** How a report writes: the reader's units, the shop's form of days and figures. */
export interface Writes {
  readonly system: UnitSystem;
  readonly region: ShopRules['region'];
  readonly timeZone: string;
}

/** Margin of every page, points: 15 mm. */
const MARGIN = 42.5;
export const POINTS_PER_MM = 72 / 25.4;
export const INK = '#22262b';
export const QUIET = '#5d646d';
export const SPARK = '#a33208';
export const RULE = '#b9b4aa';

/** To the left and right of what stands in a cell, points. */
const CELL_PADDING = 4;

/** A column of a table on paper. */
export interface PaperColumn {
  readonly head: string;
  /** Its share of the width. */
  readonly share: number;
  readonly align?: 'right';
}

/** Paper of a fixed size, its text tagged so that a reader for the blind finds headings, paragraphs and tables. */
export class Paper {
  readonly doc: PDFKit.PDFDocument;
  readonly show;
  private readonly root;

  constructor(
    title: string,
    private readonly writes: Writes,
  ) {
    this.doc = new PDFDocument({
      size: 'A4',
      margin: MARGIN,
      bufferPages: true,
      tagged: true,
      lang: 'en-GB',
      displayTitle: true,
      pdfVersion: '1.7',
      info: { Title: title, Creator: 'Tally Stone' },
    });
    this.root = this.doc.struct('Document');
    this.doc.addStructure(this.root);
    this.show = showIn(writes.system, writes.region);
    this.text();
  }

  get width(): number {
    return this.doc.page.width - 2 * MARGIN;
  }
  get left(): number {
    return MARGIN;
  }

  private text(size = 9): void {
    this.doc.font(TEXT).fontSize(size).fillColor(INK);
  }

  number(value: number, digits = 0): string {
    return numberIn(this.writes.region, value, digits);
  }
  money(amount: number, currency: string): string {
    return moneyIn(this.writes.region, amount, currency);
  }
  day(instant: string): string {
    return momentIn(this.writes.region, this.writes.timeZone, instant, FULL_DAY);
  }
  /** A quantity without its unit, which stands in the head of its column. */
  figure(value: number | undefined, base: Base, digits = 1): string {
    if (value === undefined) return '';
    const shown = shownIn(this.writes.system, value, base, digits);
    return this.number(shown.value, shown.digits);
  }
  unit(base: Base): string {
    return markOf(unitIn(this.writes.system, base));
  }
  /** A sentence that came in metric. */
  resay(words: string): string {
    return resaid(words, this.show);
  }

  /** Starts a new page where less than this is left of the one at hand, points. */
  need(height: number): void {
    if (this.doc.y + height > this.doc.page.height - MARGIN) this.doc.addPage();
  }

  heading(level: 'H1' | 'H2', words: string): void {
    if (level === 'H2') {
      this.need(70);
      this.doc.moveDown(0.9);
    }
    this.doc
      .font(STRONG)
      .fontSize(level === 'H1' ? 20 : 11)
      .fillColor(INK)
      .text(words, MARGIN, this.doc.y, {
        width: this.width,
        structParent: this.root,
        structType: level,
      });
    this.doc.moveDown(0.25);
    this.text();
  }

  paragraph(words: string, quiet = false): void {
    this.doc.fillColor(quiet ? QUIET : INK).text(words, MARGIN, this.doc.y, {
      width: this.width,
      structParent: this.root,
      structType: 'P',
    });
    this.text();
  }

  /** The usual caution, under every paper that goes with blades. */
  caution(): void {
    this.doc.moveDown();
    this.paragraph(
      $localize`Never fit a blade that failed a check. The maker’s manual, local codes and licensed practice come before these figures.`,
      true,
    );
  }

  /** A picture of `height` points with the words that stand for it; `draw` is given its top. */
  figureOf(alt: string, height: number, draw: (top: number) => void): void {
    this.need(height);
    const top = this.doc.y;
    this.root.add(
      this.doc.struct('Figure', { alt }, () => {
        this.doc.save();
        draw(top);
        this.doc.restore();
      }),
    );
    this.doc.x = MARGIN;
    this.doc.y = top + height;
    this.text();
  }

  /** Shares of columns by what stands in them: no word is broken while there is room, the rest goes to the long ones. */
  sharesOf(heads: readonly string[], rows: readonly (readonly string[])[]): number[] {
    const wide = (text: string, font: string): number =>
      this.doc.font(font).fontSize(8).widthOfString(text) + 2 * CELL_PADDING + 1;
    const of = (i: number, parts: (text: string) => string[]): number =>
      Math.max(
        ...parts(heads[i] ?? '').map((part) => wide(part, STRONG)),
        ...rows.flatMap((row) => parts(row[i] ?? '').map((part) => wide(part, TEXT))),
      );
    const least = heads.map((_, i) => of(i, (text) => text.split(' ')));
    const whole = heads.map((_, i) => of(i, (text) => [text]));
    const sum = (some: readonly number[]): number => some.reduce((all, each) => all + each, 0);
    const [room, wanted] = [Math.max(0, this.width - sum(least)), sum(whole) - sum(least)];
    this.text();
    return least.map((width, i) =>
      wanted > 0 ? width + (room * ((whole[i] ?? 0) - width)) / wanted : width,
    );
  }

  /** A table that goes on over pages, its head in bold. A column with nothing in it is left out. */
  table(all: readonly PaperColumn[], every: readonly (readonly string[])[]): void {
    const used = all.flatMap((_, i) => (every.some((row) => row[i]) ? [i] : []));
    const columns = used.flatMap((i) => all[i] ?? []);
    const rows = every.map((row) => used.map((i) => row[i] ?? ''));
    const shares = columns.reduce((sum, { share }) => sum + share, 0);
    this.text(8);
    this.doc.x = MARGIN;
    this.doc.table({
      structParent: this.root,
      columnStyles: columns.map(({ share }) => (this.width * share) / shares),
      defaultStyle: {
        padding: [2.5, CELL_PADDING],
        border: [0, 0, 0.5, 0],
        borderColor: RULE,
      },
      data: [
        columns.map(({ head, align }) => ({
          text: head,
          type: 'TH' as const,
          font: { src: STRONG, size: 8 },
          ...(align && { align: { x: align, y: 'top' as const } }),
        })),
        ...rows.map((row) =>
          row.map((text, i) => {
            const align = columns[i]?.align;
            return { text, ...(align && { align: { x: align, y: 'top' as const } }) };
          }),
        ),
      ],
    } as Parameters<PDFKit.PDFDocument['table']>[0]);
    this.text();
    this.doc.moveDown(0.5);
  }

  /** Ends the paper: `foot` at the bottom of every page, with its number. Gives the file. */
  async end(foot: string): Promise<Buffer> {
    const { start, count } = this.doc.bufferedPageRange();
    for (let i = start; i < start + count; i++) {
      this.doc.switchToPage(i);
      this.doc.markContent('Artifact', { type: 'Pagination' });
      // Below the margin a page would begin anew.
      this.doc.page.margins.bottom = 0;
      this.doc
        .font(TEXT)
        .fontSize(7)
        .fillColor(QUIET)
        .text(
          $localize`${foot}   ·   page ${i + 1} of ${count}`,
          MARGIN,
          this.doc.page.height - 30,
          {
            width: this.width,
            lineBreak: false,
          },
        );
      this.doc.endMarkedContent();
    }
    this.root.end();
    const parts: Buffer[] = [];
    this.doc.on('data', (part: Buffer) => parts.push(part));
    const whole = new Promise<Buffer>((resolve) => {
      this.doc.once('end', () => {
        resolve(Buffer.concat(parts));
      });
    });
    this.doc.end();
    return whole;
  }
}
