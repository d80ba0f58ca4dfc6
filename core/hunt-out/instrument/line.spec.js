import { instrumentLine, readInstrumentLine, scannerLine, } from '../index.js';
const sample = {
    key: 'scale',
    timeS: 12.4,
    value: 812.4,
    unit: 'g',
    resolution: 0.1,
    u: 0.06,
    state: 'ok',
};
describe('an instrument’s line', () => {
    it('is plain text and reads back as it was', () => {
        expect(instrumentLine(sample)).toBe('scale 12.40 812.4 g 0.1 0.06 ok');
        expect(readInstrumentLine(instrumentLine(sample))).toEqual(sample);
        const fine = { ...sample, key: 'caliper', unit: 'mm', value: 55.12, resolution: 0.01 };
        expect(readInstrumentLine(instrumentLine(fine))).toEqual(fine);
    });
    it('carries a code in three fields', () => {
        const scanned = { key: 'scanner', timeS: 3, code: '44APY' };
        expect(readInstrumentLine(scannerLine(scanned))).toEqual(scanned);
    });
    it('names the field that is wrong', () => {
        expect(() => readInstrumentLine('scale x 812.4 g 0.1 0.06 ok')).toThrowError(/time/);
        expect(() => readInstrumentLine('scale 1 heavy g 0.1 0.06 ok')).toThrowError(/value/);
        expect(() => readInstrumentLine('scale 1 812.4 g 0.1 0.06 fine')).toThrowError(/state/);
        expect(() => readInstrumentLine('scale 1 812.4 g')).toThrowError(/seven fields/);
        expect(() => readInstrumentLine('')).toThrowError(/key/);
    });
});
//# sourceMappingURL=line.spec.js.map