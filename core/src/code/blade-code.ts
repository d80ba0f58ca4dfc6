import { BenchError, between } from '../errors.js';

/**
 * Blade codes for a hand punch set: four characters and one check character, like `AC4HK`.
 *
 * - The body is written in characters that stay themselves when worn, rotated by 180° or badly struck:
 *   no O/0/Q/D, I/1/L, Z/2, S/5, B/8, G/6/9, U/V, W (an M upside down), 3 (an E upside down), R, F.
 * - The check character follows ISO/IEC 7064, MOD 37,36 (the pure alphanumeric hybrid system). Bodies
 *   whose check character would be a look-alike are simply not given out, so the published scheme is
 *   used as it stands.
 */
export const CODE_CHARACTERS = '47ACEHJKMNPTXY';
const BODY_LENGTH = 4;

const ALPHABET = '0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZ';
const M = 36;

function valueOf(character: string, field: string): number {
  const value = ALPHABET.indexOf(character);
  if (character.length !== 1 || value < 0) {
    throw new BenchError(
      field,
      $localize`may hold only the letters A to Z and the digits 0 to 9`,
      character,
    );
  }
  return value;
}

/**
 * Check character by ISO/IEC 7064, MOD 37,36: P starts at 36; for each character P = (P + a) mod 36 (36 for
 * 0), doubled mod 37; the check character makes P + c ≡ 1 (mod 36).
 *
 * Errors: `text` when it is empty or holds other characters.
 * Example: the standard's application to the Global Release Identifier, `A12425GABC1234002`, gives `M`.
 * @example checkCharacter('A12425GABC1234002') // 'M'
 */
export function checkCharacter(text: string): string {
  if (text === '') throw new BenchError('text', $localize`must not be empty`);
  let p = M;
  for (const character of text) {
    p = (p + valueOf(character, 'text')) % M || M;
    p = (2 * p) % (M + 1);
  }
  return ALPHABET[(M + 1 - p) % M] ?? '';
}

/**
 * Upper case, without the spaces, dots and dashes people put in to read a code aloud.
 * @example normaliseCode(' 44-7m ') // '447M'
 */
export function normaliseCode(text: string): string {
  return text.toUpperCase().replace(/[\s.\-–_/]+/g, '');
}

export type CodeReading =
  | { readonly kind: 'code'; readonly code: string }
  | { readonly kind: 'empty' }
  | { readonly kind: 'wrong-length'; readonly code: string; readonly expected: number }
  | { readonly kind: 'foreign-character'; readonly code: string; readonly character: string }
  | { readonly kind: 'wrong-check'; readonly code: string };

/**
 * Reads a scanned or typed code. Tells a code that cannot be ours (wrong length, a character never
 * stamped, wrong check character: misread or mistyped) from one that could be.
 * Example: `readCode(' ac4h-k ')` is a code when its check character is right.
 * @example readCode('447HP').kind // 'code'
 */
export function readCode(text: string): CodeReading {
  const code = normaliseCode(text);
  if (code === '') return { kind: 'empty' };
  const character = [...code].find((each) => !CODE_CHARACTERS.includes(each));
  if (character !== undefined) return { kind: 'foreign-character', code, character };
  if (code.length !== BODY_LENGTH + 1) {
    return { kind: 'wrong-length', code, expected: BODY_LENGTH + 1 };
  }
  return checkCharacter(code.slice(0, -1)) === code.at(-1)
    ? { kind: 'code', code }
    : { kind: 'wrong-check', code };
}

/** How many bodies there are; serials run from 0 to one below this. */
export const CODE_SERIALS = CODE_CHARACTERS.length ** BODY_LENGTH;

/**
 * The code of a serial, or `undefined` where its check character would be a look-alike.
 * @example codeOfSerial(1) // '4447M'
 */
export function codeOfSerial(serial: number): string | undefined {
  between('serial', serial, 0, CODE_SERIALS - 1);
  const base = CODE_CHARACTERS.length;
  let rest = serial;
  let body = '';
  for (let i = 0; i < BODY_LENGTH; i++) {
    body = (CODE_CHARACTERS[rest % base] ?? '') + body;
    rest = Math.floor(rest / base);
  }
  const check = checkCharacter(body);
  return CODE_CHARACTERS.includes(check) ? body + check : undefined;
}

/**
 * The next code to stamp at or after a serial, with its serial. Errors: `serial` when none is left.
 * @example nextCode(0) // { code: '4447M', serial: 1 }
 */
export function nextCode(fromSerial: number): { readonly code: string; readonly serial: number } {
  for (let serial = fromSerial; serial < CODE_SERIALS; serial++) {
    const code = codeOfSerial(serial);
    if (code !== undefined) return { code, serial };
  }
  throw new BenchError('serial', $localize`is past the last code: no codes are left`, fromSerial);
}
