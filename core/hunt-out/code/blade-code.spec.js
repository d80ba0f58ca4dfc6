import fc from 'fast-check';
import { checkCharacter, CODE_CHARACTERS, CODE_SERIALS, codeOfSerial, nextCode, readCode, } from '../index.js';
describe('blade codes', () => {
    // ISO/IEC 7064 MOD 37,36 as applied by the Global Release Identifier; its published example is
    // A1-2425G-ABC1234002-M (from memory).
    it('carry the check character of ISO/IEC 7064 MOD 37,36', () => {
        expect(checkCharacter('A12425GABC1234002')).toBe('M');
    });
    it('are five characters without look-alikes, check character included', () => {
        const { code } = nextCode(0);
        expect(code).toHaveSize(5);
        expect([...code].every((character) => CODE_CHARACTERS.includes(character))).toBeTrue();
        expect(checkCharacter(code.slice(0, 4))).toBe(code[4] ?? '');
    });
    it('are enough for ten thousand blades', () => {
        let codes = 0;
        for (let serial = 0; serial < CODE_SERIALS; serial++)
            if (codeOfSerial(serial))
                codes++;
        expect(codes).toBeGreaterThan(10_000);
        expect(() => nextCode(CODE_SERIALS)).toThrowError(/no codes are left/);
    });
    it('forgive case, spaces and dashes', () => {
        const { code } = nextCode(500);
        const spoken = ` ${code.slice(0, 2).toLowerCase()} - ${code.slice(2).toLowerCase()} `;
        expect(readCode(spoken)).toEqual({ kind: 'code', code });
    });
    it('tell a misread code from one that could be ours', () => {
        const { code } = nextCode(500);
        const other = CODE_CHARACTERS[(CODE_CHARACTERS.indexOf(code[1] ?? '') + 1) % CODE_CHARACTERS.length] ?? '';
        expect(readCode(code[0] + other + code.slice(2)).kind).toBe('wrong-check');
        expect(readCode('ACO4H')).toEqual({ kind: 'foreign-character', code: 'ACO4H', character: 'O' });
        expect(readCode('AC')).toEqual({ kind: 'wrong-length', code: 'AC', expected: 5 });
        expect(readCode('  ').kind).toBe('empty');
    });
    it('catch every single wrong character', () => {
        const serials = fc.integer({ min: 0, max: CODE_SERIALS - 2000 });
        fc.assert(fc.property(serials, fc.integer({ min: 0, max: 4 }), fc.constantFrom(...CODE_CHARACTERS), (serial, place, wrong) => {
            const { code } = nextCode(serial);
            fc.pre(code[place] !== wrong);
            expect(readCode(code.slice(0, place) + wrong + code.slice(place + 1)).kind).toBe('wrong-check');
        }));
    });
    it('catch nearly every swap of neighbours: counted over all codes there are', () => {
        let swaps = 0;
        let missed = 0;
        for (let serial = 0; serial < CODE_SERIALS; serial++) {
            const code = codeOfSerial(serial);
            if (!code)
                continue;
            for (let place = 0; place < 4; place++) {
                if (code[place] === code[place + 1])
                    continue;
                const swapped = code.slice(0, place) + code[place + 1] + code[place] + code.slice(place + 2);
                swaps += 1;
                if (readCode(swapped).kind === 'code')
                    missed += 1;
            }
        }
        expect(swaps).toBeGreaterThan(50_000);
        expect(missed / swaps).toBeLessThan(0.001);
    });
});
//# sourceMappingURL=blade-code.spec.js.map