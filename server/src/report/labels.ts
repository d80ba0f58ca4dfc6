import {
  LABEL_SHEETS,
  labelPlace,
  MOST_LABELS,
  PAPER,
  type LabelSheet,
  type LabelSheetName,
} from '@tally-stone/core';
import { Refusal, wrongField } from '@tally-stone/cycle';
import bwip from 'bwip-js/node';
import PDFDocument from 'pdfkit';
import type { Database } from '../database.js';
import { pegsOf } from '../fleet/pegs.js';
import { listSpecs } from '../spec/specs.js';
import { INK, POINTS_PER_MM, QUIET, STRONG, TEXT } from './paper.js';

/** What stands on a label: a large word, a line or two under it, and a code that scanners read. */
interface Label {
  readonly large: string;
  readonly lines: readonly string[];
  readonly code?: string;
}

/** Tags of blades by their codes, with the mowers that take them. */
async function ofBlades(database: Database, codes: readonly string[]): Promise<Label[]> {
  const { models } = database;
  const found = await models.bladeCode.findAll({ where: { code: [...codes] } });
  const known = new Map(found.map((each) => [each.code, each.bladeId]));
  const missing = codes.find((code) => !known.has(code));
  if (missing !== undefined)
    throw wrongField('codes', $localize`has ${missing}, which is no blade's`);
  const blades = await models.blade.findAll({ where: { id: [...known.values()] } });
  const specOf = new Map(blades.map(({ id, specId }) => [id, specId]));
  const specs = new Map(
    (await listSpecs(database)).map((spec) => [spec.specId, spec.figures.name]),
  );
  const decks = await models.deck.findAll({ include: ['mower'] });
  return codes.map((code) => {
    const specId = specOf.get(known.get(code) ?? '');
    const fits = decks.flatMap(({ figures, mower }) =>
      figures?.specId === specId && mower ? [mower.name] : [],
    );
    return {
      large: code,
      code,
      lines: [
        specs.get(specId ?? '') ?? '',
        ...(fits.length > 0 ? [$localize`fits ${fits.sort().join(', ')}`] : []),
      ],
    };
  });
}

/** Tags of every peg of the wall. */
async function ofPegs(database: Database): Promise<Label[]> {
  const names = new Map(
    (await listSpecs(database)).map((spec) => [spec.specId, spec.figures.name]),
  );
  return (await pegsOf(database)).map(({ name, specId, mowerName }) => ({
    large: $localize`Peg ${name}`,
    lines: [mowerName ?? 'loose', names.get(specId) ?? ''],
  }));
}

export interface LabelsAsked {
  readonly sheet: LabelSheetName;
  /** Labels that are gone from the first sheet already. */
  readonly skip: number;
  /** Codes of blades; without them every peg of the wall. */
  readonly codes?: readonly string[] | undefined;
}

/** A sheet of labels as a PDF, to be printed at its true size. Errors: a code that is no blade's; nothing to print. */
export async function labels(database: Database, asked: LabelsAsked): Promise<Buffer> {
  const these = asked.codes ? await ofBlades(database, asked.codes) : await ofPegs(database);
  if (these.length === 0)
    throw new Refusal('notFound', $localize`There is nothing to print a label of yet.`);
  if (these.length > MOST_LABELS)
    throw wrongField('codes', $localize`are more than ${MOST_LABELS} at once`);
  const sheet: LabelSheet = LABEL_SHEETS[asked.sheet];
  const { widthMm, heightMm } = PAPER[sheet.paper];
  const doc = new PDFDocument({
    size: [widthMm * POINTS_PER_MM, heightMm * POINTS_PER_MM],
    margin: 0,
    autoFirstPage: false,
    info: { Title: $localize`Labels`, Creator: 'Tally Stone' },
  });
  const parts: Buffer[] = [];
  doc.on('data', (part: Buffer) => parts.push(part));
  const whole = new Promise<Buffer>((resolve) => {
    doc.once('end', () => {
      resolve(Buffer.concat(parts));
    });
  });
  let page = -1;
  for (const [i, label] of these.entries()) {
    const place = labelPlace(sheet, i + asked.skip);
    if (place.page > page) {
      doc.addPage();
      page = place.page;
    }
    await draw(doc, label, sheet, place);
  }
  doc.end();
  return whole;
}

/** Clear of the label's edge, mm. */
const INSET_MM = 2.5;
const MOST_CODE_MM = 18;
/** The code leaves room for the words beside it. */
const MOST_CODE_SHARE = 0.38;
/** Read from the bench, across the room where nothing is to be scanned, points. */
const LARGEST = { scanned: 22, read: 40 };

async function draw(
  doc: PDFKit.PDFDocument,
  { large, lines, code }: Label,
  { widthMm, heightMm }: LabelSheet,
  { xMm, yMm }: { readonly xMm: number; readonly yMm: number },
): Promise<void> {
  const k = POINTS_PER_MM;
  const [left, top] = [(xMm + INSET_MM) * k, (yMm + INSET_MM) * k];
  const tall = (heightMm - 2 * INSET_MM) * k;
  let words = left;
  if (code !== undefined) {
    const side = Math.min(MOST_CODE_MM * k, tall, (widthMm - 2 * INSET_MM) * k * MOST_CODE_SHARE);
    const picture = await bwip.toBuffer({ bcid: 'datamatrix', text: code, scale: 8, padding: 0 });
    doc.image(picture, left, top + (tall - side) / 2, { width: side, height: side });
    words = left + side + 2 * k;
  }
  const wide = (xMm + widthMm - INSET_MM) * k - words;
  const size = Math.min(
    code === undefined ? LARGEST.read : LARGEST.scanned,
    tall * 0.4,
    (wide / large.length) * 1.6,
  );
  const small = Math.min(11, size * 0.4);
  const used = size * 1.2 + lines.length * small * 1.25;
  let y = top + Math.max(0, (tall - used) / 2);
  doc.font(STRONG).fontSize(size).fillColor(INK).text(large, words, y, { lineBreak: false });
  y += size * 1.2;
  for (const line of lines) {
    doc.font(TEXT).fontSize(small).fillColor(QUIET);
    doc.text(line, words, y, { width: wide, height: small * 1.3, ellipsis: true });
    y += small * 1.25;
  }
}
