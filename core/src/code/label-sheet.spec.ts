import { LABEL_SHEETS, labelPlace, PAPER, type LabelSheet } from './label-sheet.js';

describe('a sheet of labels', () => {
  it('lies within its paper, no label over another, each sheet that is offered', () => {
    for (const [name, sheet] of Object.entries<LabelSheet>(LABEL_SHEETS)) {
      const count = sheet.columns * sheet.rows;
      const places = Array.from({ length: count }, (_, i) => labelPlace(sheet, i));
      for (const { page, xMm, yMm } of places) {
        expect(page).toBe(0);
        expect(xMm + sheet.widthMm)
          .withContext(name)
          .toBeLessThanOrEqual(PAPER[sheet.paper].widthMm + 0.1);
        expect(yMm + sheet.heightMm)
          .withContext(name)
          .toBeLessThanOrEqual(PAPER[sheet.paper].heightMm + 0.1);
      }
      for (const [i, a] of places.entries())
        for (const b of places.slice(i + 1))
          expect(
            Math.abs(a.xMm - b.xMm) >= sheet.widthMm - 0.1 ||
              Math.abs(a.yMm - b.yMm) >= sheet.heightMm - 0.1,
          )
            .withContext(name)
            .toBeTrue();
      expect(labelPlace(sheet, count)).toEqual({ ...labelPlace(sheet, 0), page: 1 });
      // As wide a margin right as left, to a millimetre: a sheet goes into the printer either way round.
      const right = PAPER[sheet.paper].widthMm - (places.at(-1)?.xMm ?? 0) - sheet.widthMm;
      expect(Math.abs(right - sheet.leftMm))
        .withContext(name)
        .toBeLessThan(1);
    }
  });

  it('refuses labels that overlap or leave the paper, and what is no place', () => {
    const sheet = LABEL_SHEETS['3 × 8, 70 × 37 mm, A4'];
    expect(() => labelPlace({ ...sheet, columns: 4 }, 0)).toThrowError(/columns do not fit/);
    expect(() => labelPlace({ ...sheet, acrossMm: 60 }, 0)).toThrowError(
      /acrossMm makes labels overlap/,
    );
    expect(() => labelPlace({ ...sheet, rows: 2.5 }, 0)).toThrowError(
      /rows must be a whole number/,
    );
    expect(() => labelPlace(sheet, -1)).toThrowError(/index/);
    expect(() => labelPlace(sheet, NaN)).toThrowError(/index/);
  });
});
