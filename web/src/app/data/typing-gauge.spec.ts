import { KeyPace } from './typing-gauge';

const pace = (keys: string, everyMs: number): KeyPace => {
  const of = new KeyPace();
  [...keys].forEach((key, i) => {
    of.note({
      key: key === '↵' ? 'Enter' : key === '⌫' ? 'Backspace' : key,
      timeStamp: 1000 + i * everyMs,
    });
  });
  return of;
};

describe('a figure that comes by the keyboard', () => {
  it('is a gauge’s where no hand could have typed it', () => {
    expect(pace('61.24↵', 8).isGauge()).toBeTrue();
    expect(pace('61.24↵', 90).isGauge()).toBeFalse();
  });

  it('is a hand’s where it is too short to tell, or was mended', () => {
    expect(pace('61↵', 8).isGauge()).toBeFalse();
    expect(pace('61.24⌫5↵', 8).isGauge()).toBeFalse();
  });
});
