import { bladeOutline, edgePoint, edgeSide, fromTipMm, interpolateMm, sweptDiameterMm, usualLimits, usualReadings, usualStations, widthAtMm, } from '../index.js';
const blade = {
    lengthMm: 500,
    newWidthMm: 60,
    hand: 'right',
    edgeLengthMm: 100,
    widths: { A: [{ radiusMm: 240, widthMm: 50 }], B: [] },
};
describe('blade shape', () => {
    it('sweeps a circle through its tip corners', () => {
        // A 3-4-5 triangle.
        expect(sweptDiameterMm(400, 300)).toBe(500);
        expect(fromTipMm(530, 220)).toBe(45);
    });
    it('interpolates between stations and carries flat beyond them', () => {
        const known = [
            { radiusMm: 200, valueMm: 50 },
            { radiusMm: 100, valueMm: 60 },
        ];
        expect(interpolateMm(known, 150)).toBe(55);
        expect(interpolateMm(known, 10)).toBe(60);
        expect(interpolateMm(known, 500)).toBe(50);
        expect(() => interpolateMm([], 1)).toThrowError(/known/);
    });
    it('is symmetric under a half turn: end A cuts below, end B above, a left hand the other way', () => {
        expect(edgeSide('A', 'right')).toBe(1);
        expect(edgeSide('B', 'right')).toBe(-1);
        expect(edgeSide('A', 'left')).toBe(-1);
    });
    it('draws wear on the cutting edge and leaves the back edge alone', () => {
        expect(widthAtMm(blade, 'A', 240)).toBe(50);
        expect(widthAtMm(blade, 'A', 50)).toBe(60);
        expect(edgePoint(blade, 'A', 240)).toEqual({ xMm: -240, yMm: 20 });
        const outline = bladeOutline(blade);
        expect(Math.min(...outline.map(({ yMm }) => yMm))).toBe(-30);
        expect(Math.max(...outline.map(({ xMm }) => xMm))).toBe(250);
    });
});
describe('a usual spec', () => {
    it('has three stations, routine and full-look readings, and limits that say they are the shop’s', () => {
        const stations = usualStations(500);
        expect(stations.map(({ radiusMm }) => radiusMm)).toEqual([240, 205, 165]);
        const readings = usualReadings(stations);
        expect(readings.filter(({ quantity }) => quantity === 'width')).toHaveSize(6);
        expect(readings.filter(({ when }) => when === 'full-look')).toHaveSize(6);
        expect(usualLimits({ newLengthMm: 500, wingMm: 5 }).every(({ source }) => source === 'shop')).toBeTrue();
        expect(() => usualStations(150)).toThrowError(/too short/);
    });
});
//# sourceMappingURL=blade.spec.js.map