import { fitValues } from '../index.js';
const line = (xs) => ([a = 0, b = 0]) => xs.map((x) => a + b * x);
describe('least squares', () => {
    // JCGM 100:2008, H.3, table H.6: correction of a thermometer, t0 = 20 °C, eleven readings.
    it('gives the straight line of the guide’s thermometer, H.3.3', () => {
        const temperatures = [
            21.521, 22.012, 22.512, 23.003, 23.507, 23.999, 24.513, 25.002, 25.503, 26.01, 26.511,
        ];
        const corrections = [
            -0.171, -0.169, -0.166, -0.159, -0.164, -0.165, -0.156, -0.157, -0.159, -0.161, -0.16,
        ];
        const fitted = fitValues(line(temperatures.map((t) => t - 20)), 
        // The guide's s = 0.0035 °C, the spread about the line, taken for every reading.
        corrections.map((value) => ({ value, u: 0.0035 })), { start: [0, 0], sizes: [0.1, 0.01] });
        expect(fitted.values[0]).toBeCloseTo(-0.1712, 4);
        expect(fitted.values[1]).toBeCloseTo(0.00218, 5);
        expect(fitted.us[0]).toBeCloseTo(0.0029, 4);
        expect(fitted.us[1]).toBeCloseTo(0.00067, 5);
    });
    it('finds a curve’s constants from afar, and keeps to its bounds', () => {
        const xs = [0, 1, 2, 3, 4];
        const decay = ([size = 0, rate = 0]) => xs.map((x) => size * Math.exp(-rate * x));
        const seen = decay([5, 0.7]).map((value) => ({ value, u: 0.01 }));
        const found = fitValues(decay, seen, { start: [1, 0.1], sizes: [1, 0.1] });
        expect(found.values[0]).toBeCloseTo(5, 6);
        expect(found.values[1]).toBeCloseTo(0.7, 6);
        expect(found.chiSquared).toBeLessThan(1e-9);
        const falling = fitValues(line(xs), xs.map((x) => ({ value: 3 - x, u: 0.1 })), { start: [3, 1], sizes: [1, 1], atLeast: [-10, 0] });
        expect(falling.values[1]).toBe(0);
    });
    it('says when the readings are too few, or all alike', () => {
        const one = [{ value: 1, u: 0.1 }];
        const start = { start: [0, 0], sizes: [1, 1] };
        expect(() => fitValues(line([1]), one, start)).toThrowError(/at least 2 readings/);
        expect(() => fitValues(line([1, 1]), [...one, ...one], start)).toThrowError(/tell the unknowns apart/);
    });
});
//# sourceMappingURL=least-squares.spec.js.map