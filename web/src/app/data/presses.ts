/** UUID of version 7, whose first 48 bits tell when it was made, ms (RFC 9562, 5.7). */
const TIMED_ID = /^([0-9a-f]{8})-([0-9a-f]{4})-7[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/i;
/** An id made so lately was made for this press, ms; what it is about is older. */
const JUST_MADE_MS = 10_000;

/** What is asked for, without the ids made for asking: two presses of one button differ in them alone. */
function asked(act: object, now: number): string {
  return JSON.stringify(act, (_, value: unknown) => {
    const [, high = '', low = ''] = (typeof value === 'string' && TIMED_ID.exec(value)) || [];
    return high && now - parseInt(high + low, 16) < JUST_MADE_MS ? '' : value;
  });
}

/**
 * What is on its way. The same asked again before it is answered is the same press, by a finger that bounced: it gets the
 * same answer and nothing is sent twice.
 */
export class Presses {
  private readonly underWay = new Map<string, Promise<unknown>>();

  /** `act` tells one thing from another; where a button does one thing it can be left empty. */
  once<Answer>(act: object, send: () => Promise<Answer>): Promise<Answer> {
    const key = asked(act, Date.now());
    const known = this.underWay.get(key) as Promise<Answer> | undefined;
    if (known) return known;
    const answer = send().finally(() => this.underWay.delete(key));
    this.underWay.set(key, answer);
    return answer;
  }
}
