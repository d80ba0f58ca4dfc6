import type { LeaseView } from '@tally-stone/contract';

/** A screen that says nothing for so long has let go: closed, asleep, or cut off. */
const LETS_GO_MS = 20_000;

interface Lease {
  readonly holder: string;
  readonly personId: string;
  readonly since: string;
  seenAtMs: number;
}

/**
 * Who has which blade in hand, by cycle: one screen works, others watch. Only a courtesy between benches; what
 * keeps writes apart is the cycle's revision. Lives as long as the server: after a restart the first screen
 * that speaks has it.
 */
export class Leases {
  private readonly held = new Map<string, Lease>();

  constructor(private readonly nowMs: () => number = Date.now) {}

  /** A screen says that it is open; it gets the blade if nobody else has it. */
  speak(cycleId: string, holder: string, personId: string): Lease {
    const standing = this.held.get(cycleId);
    const now = this.nowMs();
    if (standing && standing.holder !== holder && now - standing.seenAtMs < LETS_GO_MS) {
      return standing;
    }
    if (standing?.holder === holder && standing.personId === personId) {
      standing.seenAtMs = now;
      return standing;
    }
    return this.give(cycleId, holder, personId);
  }

  /** Takes the blade over; who had it watches from then on. */
  give(cycleId: string, holder: string, personId: string): Lease {
    const now = this.nowMs();
    const lease = { holder, personId, since: new Date(now).toISOString(), seenAtMs: now };
    this.held.set(cycleId, lease);
    return lease;
  }

  /** A screen goes away and says so. */
  letGo(cycleId: string, holder: string): void {
    if (this.held.get(cycleId)?.holder === holder) this.held.delete(cycleId);
  }

  holderOf(cycleId: string): Lease | undefined {
    return this.held.get(cycleId);
  }
}

export const leaseView = (
  lease: Lease,
  asker: string,
  nameOf: (personId: string) => string,
): LeaseView => ({
  mine: lease.holder === asker,
  name: nameOf(lease.personId),
  personId: lease.personId,
  since: lease.since,
});
