import {
  BED_MM,
  MAT_PAPERS,
  MARKER_MM,
  MAT_SIZE_MM,
  matMarkers,
  SCALE_BAR_MM,
  SCALE_BARS,
  TIP_MARK_MM,
  type MatPaper,
  type MatPoint,
} from '@tally-stone/core';
import PDFDocument from 'pdfkit';
import { markerCells } from '../instrument/photo-stand.js';
import { POINTS_PER_MM, QUIET, TEXT } from './paper.js';

const LINE_MM = 0.3;
/** End lines of a scale bar reach so far to both sides, mm. */
const BAR_END_MM = 1.6;

/** The photo mat as a PDF: black squares, two bars to measure, and where each end's tip goes. */
export function photoMat(matNumber: number, paper: MatPaper): Promise<Buffer> {
  const { widthMm, heightMm } = MAT_PAPERS[paper];
  const k = POINTS_PER_MM;
  const doc = new PDFDocument({
    size: [widthMm * k, heightMm * k],
    margin: 0,
    info: { Title: $localize`Photo mat ${matNumber}`, Creator: 'Tally Stone' },
  });
  const parts: Buffer[] = [];
  doc.on('data', (part: Buffer) => parts.push(part));
  const whole = new Promise<Buffer>((resolve) => {
    doc.once('end', () => {
      resolve(Buffer.concat(parts));
    });
  });
  const left = (widthMm - MAT_SIZE_MM.width) / 2;
  const top = (heightMm - MAT_SIZE_MM.height) / 2;
  const box = (at: MatPoint, wide: number, high: number): void => {
    doc.rect((left + at.xMm) * k, (top + at.yMm) * k, wide * k, high * k);
  };
  // Runs of black cells as one box each: boxes side by side would show seams in print.
  for (const { id, corners } of matMarkers(matNumber)) {
    const cells = markerCells(id);
    const cell = MARKER_MM / cells.length;
    cells.forEach((row, j) => {
      for (let i = 0; i < row.length;) {
        let run = 0;
        while (row[i + run] === 0) run += 1;
        const at = { xMm: corners[0].xMm + i * cell, yMm: corners[0].yMm + j * cell };
        if (run > 0) box(at, run * cell, cell * (j + 1 < cells.length ? 1.02 : 1));
        i += Math.max(1, run);
      }
    });
  }
  doc.fill('black');
  const line = (from: MatPoint, to: MatPoint, color = 'black'): void => {
    doc
      .moveTo((left + from.xMm) * k, (top + from.yMm) * k)
      .lineTo((left + to.xMm) * k, (top + to.yMm) * k)
      .lineWidth(LINE_MM * k)
      .stroke(color);
  };
  for (const [way, { from, to }] of Object.entries(SCALE_BARS)) {
    line(from, to);
    const [dx, dy] = way === 'across' ? [0, BAR_END_MM] : [BAR_END_MM, 0];
    for (const end of [from, to])
      line({ xMm: end.xMm - dx, yMm: end.yMm - dy }, { xMm: end.xMm + dx, yMm: end.yMm + dy });
  }
  doc.font(TEXT).fontSize(7).fillColor(QUIET);
  const words = (text: string, at: MatPoint): void => {
    doc.text(text, (left + at.xMm) * k, (top + at.yMm) * k, { lineBreak: false });
  };
  words(
    $localize`Photo mat ${matNumber}. Print at 100 %. Both bars are ${SCALE_BAR_MM} mm, middle to middle of their end lines: measure them once.`,
    { xMm: SCALE_BARS.across.from.xMm, yMm: SCALE_BARS.across.from.yMm - 4.6 },
  );
  for (const end of ['A', 'B'] as const) {
    const xMm = TIP_MARK_MM[end];
    const toward = end === 'A' ? 1 : -1;
    line({ xMm, yMm: BED_MM.top - 5 }, { xMm, yMm: BED_MM.top - 1 }, QUIET);
    line({ xMm, yMm: BED_MM.bottom - 3 }, { xMm, yMm: BED_MM.bottom + 1 }, QUIET);
    words(
      end === 'A'
        ? $localize`End A: tip at this line, blade to the right`
        : $localize`End B: tip at this line, blade to the left`,
      {
        xMm: end === 'A' ? xMm + 2 : xMm - 52,
        yMm: BED_MM.top - 5,
      },
    );
    line(
      { xMm: xMm + toward * 1, yMm: BED_MM.top - 1.5 },
      { xMm: xMm + toward * 6, yMm: BED_MM.top - 1.5 },
      QUIET,
    );
  }
  doc.end();
  return whole;
}
