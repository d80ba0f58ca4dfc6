import { newId } from './commands';
import { Presses } from './presses';

describe('a press', () => {
  const OLD = '018f0000-0000-7000-8000-0000000000c1';
  const OTHER = '018f0000-0000-7000-8000-0000000000c2';
  const fitting = (bladeId: string) => ({ type: 'fit-blade', fitId: newId(), bladeId });

  function slow() {
    const presses = new Presses();
    let sent = 0;
    let answer: (n: number) => void = () => undefined;
    const press = (act: object): Promise<number> =>
      presses.once(act, () => {
        sent += 1;
        return new Promise((done) => (answer = done));
      });
    return { press, sent: () => sent, answer: (n: number) => answer(n) };
  }

  it('is one where it was pressed again before it was through, though an id was made for each', async () => {
    const { press, sent, answer } = slow();
    const both = [press(fitting(OLD)), press(fitting(OLD))];
    expect(sent()).toBe(1);
    answer(7);
    expect(await Promise.all(both)).toEqual([7, 7]);
    void press(fitting(OLD));
    expect(sent()).toBe(2);
  });

  it('is another where it is about something else', () => {
    const { press, sent } = slow();
    void press(fitting(OLD));
    void press(fitting(OTHER));
    void press({ ...fitting(OLD), hoursH: 3 });
    expect(sent()).toBe(3);
  });

  it('can be made again after it failed', async () => {
    const presses = new Presses();
    await expectAsync(presses.once({}, () => Promise.reject(new Error('away')))).toBeRejected();
    expect(await presses.once({}, () => Promise.resolve(1))).toBe(1);
  });
});
