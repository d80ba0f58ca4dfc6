import { backFromRetirement } from '../index.js';
const request = {
    findings: [{ severity: 'grind', words: 'End A, land 0.5 mm' }],
    corrected: true,
    by: 'ash',
    second: 'juniper',
    whole: true,
};
const fields = (more) => backFromRetirement({ ...request, ...more }).map(({ field }) => field);
describe('backFromRetirement', () => {
    it('takes a blade back whose reading is corrected, with two people and the blade in the hand', () => {
        expect(backFromRetirement(request)).toEqual([]);
    });
    it('is blocked for a second person by one alone', () => {
        expect(fields({ second: 'ash' })).toEqual(['secondPersonId']);
        expect(fields({ second: '' })).toEqual(['secondPersonId']);
    });
    it('is blocked while anything still retires it, and says what', () => {
        const findings = [{ severity: 'retire', words: 'Bend 4.0 mm, limit 3.0' }];
        expect(fields({ findings })).toEqual(['reading']);
        expect(backFromRetirement({ ...request, findings })[0]?.words).toContain('Bend 4.0 mm');
    });
    it('is blocked where nothing was corrected, and where the blade is spoilt', () => {
        expect(fields({ corrected: false })).toEqual(['reading']);
        expect(fields({ whole: false })).toEqual(['whole']);
    });
});
//# sourceMappingURL=return.spec.js.map