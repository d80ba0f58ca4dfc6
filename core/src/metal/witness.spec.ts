import { hearWitnesses, mayTeach, removedByPasses, type Measured } from '../index.js';

const said = (value: number, u: number): Measured => ({ value, u });

describe('removedByPasses', () => {
  it('is the count times g/pass, as unsure as the next grind is', () => {
    expect(removedByPasses(12, { value: 0.5, nextU: 0.1 })).toEqual({
      value: 6,
      u: jasmine.any(Number) as unknown as number,
    });
    expect(removedByPasses(12, { value: 0.5, nextU: 0.1 }).u).toBeCloseTo(1.2, 12);
    expect(() => removedByPasses(-1, { value: 0.5, nextU: 0.1 })).toThrowError(/passes/);
  });
});

describe('hearWitnesses', () => {
  it('is content when all agree, with fewer than two, too', () => {
    const { agree, repeat, pairs } = hearWitnesses({
      scale: said(6, 0.4),
      caliper: said(6.4, 0.5),
      passes: said(5.5, 0.9),
    });
    expect(agree).toBeTrue();
    expect(repeat).toBeUndefined();
    expect(pairs.length).toBe(3);
    expect(hearWitnesses({ scale: said(6, 0.4) }).agree).toBeTrue();
  });
  it('names the odd one of three, with the usual cause', () => {
    const { repeat } = hearWitnesses({
      scale: said(12, 0.4),
      caliper: said(6, 0.5),
      passes: said(6.4, 0.9),
    });
    expect(repeat).toEqual(jasmine.objectContaining({ witness: 'scale', sure: true }));
    expect(repeat?.cause).toContain('weighed dirty before');
    expect(
      hearWitnesses({ scale: said(6, 0.4), caliper: said(6.3, 0.5), passes: said(12, 0.9) }).repeat
        ?.cause,
    ).toContain('worn abrasive');
  });
  it('with two can only suggest the quickest to repeat', () => {
    const { repeat } = hearWitnesses({ scale: said(3, 0.4), caliper: said(6, 0.5) });
    expect(repeat).toEqual(jasmine.objectContaining({ witness: 'scale', sure: false }));
    expect(repeat?.cause).toContain('weighed dirty after');
  });
});

describe('mayTeach', () => {
  it('only lets a confirmed grind teach, or the tool would agree with itself', () => {
    const good = { scale: said(6, 0.4), caliper: said(6.2, 0.5) };
    expect(mayTeach(hearWitnesses(good))).toBeTrue();
    expect(mayTeach(hearWitnesses({ ...good, caliper: said(12, 0.5) }))).toBeFalse();
    expect(mayTeach(hearWitnesses({ scale: said(6, 0.4), passes: said(6.5, 1) }))).toBeTrue();
    expect(mayTeach(hearWitnesses({ scale: said(6, 0.4) }))).toBeFalse();
  });
});
