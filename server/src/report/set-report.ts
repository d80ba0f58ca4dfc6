import type { BladeView, DeckView, FleetView } from '@tally-stone/contract';
import { Refusal } from '@tally-stone/cycle';
import { DAMAGE, type UnitSystem } from '@tally-stone/core';
import type { Database } from '../database.js';
import { headOf } from '../record/chain.js';
import { fleetView } from '../screens/fleet.js';
import { bladeLife } from '../screens/life.js';
import { shopOf } from '../shop/look-up.js';
import { grindColumns, grindRow } from './grind-rows.js';
import { Paper } from './paper.js';
import { DUE_WORDS } from './due-words.js';

interface Fitted {
  readonly position: string;
  readonly life: BladeView;
}

/** Which sets a report is on: a mower's, or those of every mower that works at a site, for its customer. */
export type SetsAsked = { readonly mowerId: string } | { readonly site: string };

/**
 * The sets on mowers, for whoever runs or owns them: which blades, how alike they are, what the bench did to each last,
 * what damage it found, and when a set is due. Errors: `notFound` where there is no such mower, or none at the site.
 */
export async function setReport(
  database: Database,
  asked: SetsAsked,
  { system, at }: { system: UnitSystem; at: string },
): Promise<Buffer> {
  const [{ mowers: all }, shop, head] = await Promise.all([
    fleetView(database),
    shopOf(database),
    headOf(database.connection),
  ]);
  const mowers = all.filter((each) =>
    'mowerId' in asked ? each.mowerId === asked.mowerId : each.site === asked.site,
  );
  const [only] = mowers;
  if (!only)
    throw new Refusal(
      'notFound',
      'mowerId' in asked ? $localize`There is no such mower.` : $localize`No mower works there.`,
    );
  const whose = 'mowerId' in asked ? only.name : asked.site;
  const { rules, timeZone } = shop;
  const paper = new Paper($localize`Blades on ${whose}`, {
    system,
    region: rules.region,
    timeZone,
  });
  paper.heading(
    'H1',
    'mowerId' in asked ? $localize`Blades on ${whose}` : $localize`Blades at ${whose}`,
  );
  if ('site' in asked)
    paper.paragraph(
      `${shop.name}, ${mowers.length === 1 ? $localize`one mower` : $localize`${mowers.length} mowers`}.`,
    );
  for (const mower of mowers) {
    if ('site' in asked) {
      paper.doc.moveDown(0.9);
      paper.heading('H1', mower.name);
    }
    await oneSet(database, paper, mower, 'mowerId' in asked ? `${mower.site}. ${shop.name}. ` : '');
  }
  paper.caution();
  return paper.end(
    $localize`${shop.name}, blades ${'mowerId' in asked ? $localize`on` : $localize`at`} ${whose}   ·   printed ${paper.day(at)}   ·   record ends at entry ${head.sequence}, ${head.hash.slice(0, 16)}…`,
  );
}

async function oneSet(
  database: Database,
  paper: Paper,
  { hoursH, deck }: FleetView['mowers'][number],
  where: string,
): Promise<void> {
  const fitted = await Promise.all(
    deck.spindles.flatMap(({ position, blade }) =>
      blade ? [bladeLife(database, blade.bladeId).then((life) => ({ position, life }))] : [],
    ),
  );
  paper.paragraph($localize`${where}Its meter shows ${paper.number(hoursH, 1)} h.`);
  paper.paragraph(standing(paper, deck));
  if (fitted.length === 0) return;
  blades(paper, deck, fitted);
  atTheBench(paper, fitted);
  damage(paper, fitted);
}

function standing(paper: Paper, { fittedAt, hoursOnEdge, due, spindles }: DeckView): string {
  const on = spindles.filter(({ blade }) => blade).length;
  if (!fittedAt || on === 0) return $localize`No blades are on it.`;
  const when = due?.dueOn ? $localize`${DUE_WORDS[due.state]}, on ${paper.day(due.dueOn)}` : '';
  const words = when || (due ? DUE_WORDS[due.state] : '');
  return $localize`${on} of ${spindles.length} blades on since ${paper.day(fittedAt)}, ${paper.number(hoursOnEdge, 1)} h on the edge${words ? `: ${words}` : ''}.`;
}

const last = ({ life: { cycles } }: Fitted) => cycles.findLast(({ signedAt }) => signedAt);

/** Where it is narrowest, with a sign where that is reckoned; nothing of a blade nobody has measured. */
function narrowest(paper: Paper, { widths }: BladeView): string {
  const [least] = [...widths.A, ...widths.B].sort((a, b) => a.widthMm - b.widthMm);
  return `${least?.worked ? '≈ ' : ''}${paper.figure(least?.widthMm, 'mm')}`;
}

function blades(paper: Paper, { faults }: DeckView, fitted: readonly Fitted[]): void {
  paper.heading('H2', $localize`Fitted`);
  const massOf = ({ series }: BladeView): number | undefined => series['mass']?.at(-1)?.value;
  paper.table(
    [
      { head: $localize`Spindle`, share: 12 },
      { head: $localize`Code`, share: 10 },
      { head: $localize`Spec`, share: 28 },
      { head: $localize`Length, ${paper.unit('mm')}`, share: 12, align: 'right' },
      { head: $localize`Narrowest, ${paper.unit('mm')}`, share: 13, align: 'right' },
      { head: $localize`Mass, ${paper.unit('g')}`, share: 12, align: 'right' },
      { head: $localize`Grinds`, share: 9, align: 'right' },
    ],
    fitted.map(({ position, life }) => [
      position,
      life.blade.code,
      life.spec.figures.name,
      paper.figure(life.lengthMm, 'mm'),
      narrowest(paper, life),
      paper.figure(massOf(life), 'g'),
      paper.number(life.blade.grinds),
    ]),
  );
  const masses = fitted.flatMap(({ life }) => massOf(life) ?? []);
  if (masses.length > 1)
    paper.paragraph(
      $localize`The heaviest and the lightest lie ${paper.show(Math.max(...masses) - Math.min(...masses), 'g')} apart.`,
    );
  for (const fault of faults) paper.paragraph(paper.resay(fault));
}

function atTheBench(paper: Paper, fitted: readonly Fitted[]): void {
  const rows = fitted.flatMap((each) => {
    const cycle = last(each);
    return cycle ? [[each.life.blade.code, ...grindRow(paper, cycle)]] : [];
  });
  if (rows.length === 0) return;
  paper.heading('H2', $localize`Last at the bench`);
  paper.table([{ head: $localize`Code`, share: 10 }, ...grindColumns(paper)], rows);
}

function damage(paper: Paper, fitted: readonly Fitted[]): void {
  const rows = fitted.flatMap(({ life }) =>
    life.marks
      .filter(({ cycle }) => cycle === life.cycles.length)
      .map(({ kind, end, fromTipMm, depthMm }) => [
        life.blade.code,
        DAMAGE[kind].words,
        end,
        paper.figure(fromTipMm, 'mm', 0),
        paper.figure(depthMm, 'mm', 1),
      ]),
  );
  if (rows.length === 0) return;
  paper.heading('H2', $localize`Damage found then`);
  paper.table(
    [
      { head: $localize`Code`, share: 14 },
      { head: $localize`What`, share: 24 },
      { head: $localize`End`, share: 8 },
      { head: $localize`From the tip, ${paper.unit('mm')}`, share: 20, align: 'right' },
      { head: $localize`Depth, ${paper.unit('mm')}`, share: 18, align: 'right' },
    ],
    rows,
  );
}
