import type { Peg, SetOffer, SpecFigures } from '@tally-stone/contract';
import { bestSet, BLADE_STATES, said, type SetMember, named } from '@tally-stone/core';
import { Refusal, wrongField } from '@tally-stone/cycle';
import { bladeOf } from '../blade/look-up.js';
import type { Database } from '../database.js';
import { groupedBy } from '../db/grouped.js';
import { columnsOf, rowsInJson } from '../db/in-json.js';
import type { BladeRowStored } from '../blade/blade.model.js';
import type { DeckRow } from '../fleet/deck.model.js';
import type { SpindleRow } from '../fleet/spindle.model.js';
import { geometryOf, membersOf } from '../fleet/geometry.js';
import { pegsOf, placeOfPeg } from '../fleet/pegs.js';
import type { Models } from '../models.js';
import { listSpecs } from '../spec/specs.js';
import { bladeByCode } from './blade-rows.js';

/** More ready blades of one spec than this are matched among the longest waiting. */
const MOST_POOL = 40;

/** A blade in the rack as it is stored: thousands may lie there. */
interface InRack extends Pick<BladeRowStored, (typeof IN_RACK_COLUMNS)[number]> {
  readonly code: string;
}
const IN_RACK_COLUMNS = [
  'id',
  'specId',
  'state',
  'place',
  'grinds',
  'knownFrom',
  'intakeId',
  'trimmedAt',
] as const;

/** The specs that decks take, one deck's alone where it is told which, and how many spindles want them. */
const takers = (one: boolean): string =>
  `SELECT json_extract(deck.figures, '$.specId') AS specId, count(*) AS spindles
   FROM deck JOIN spindle ON spindle.deckId = deck.id ${one ? 'WHERE deck.id = :deckId' : ''} GROUP BY 1`;

/**
 * Blades that sets are matched from: of each spec that is taken the first ready ones, no more than can be promised, since
 * each deck is offered the first that no deck before it was; besides some by their ids, whether ready or not.
 */
export async function inRackFor(
  { blade }: Models,
  { deckId, besides = [] }: { deckId?: string; besides?: readonly string[] } = {},
): Promise<InRack[]> {
  const taken = takers(deckId !== undefined);
  const rows = await rowsInJson<InRack>(
    blade,
    { ...columnsOf<BladeRowStored>(blade, IN_RACK_COLUMNS), code: `coalesce(bladeCode.code, '')` },
    `FROM blade LEFT JOIN bladeCode ON bladeCode.bladeId = blade.id AND bladeCode."to" IS NULL
     WHERE blade.id IN (:besides) OR blade.id IN (
       SELECT ready.id FROM (${taken}) AS taken JOIN blade AS ready ON ready.id IN (
         SELECT id FROM blade WHERE state = 'ready' AND specId = taken.specId
         ORDER BY id LIMIT :pool + (SELECT max(spindles) FROM (${taken}))))`,
    { deckId, besides, pool: MOST_POOL },
  );
  return rows.sort((a, b) => (a.id < b.id ? -1 : 1));
}

const NOTHING = { blades: [], worst: 0, over: [], faults: [] };

/** A deck with its spindles in order. */
export interface OfferedTo extends DeckRow {
  readonly spindles: readonly SpindleRow[];
}

/** A blade that hangs in the rack or stays on, with what it is matched by. */
interface Hanging {
  readonly blade: InRack;
  readonly size: SetMember;
}

/** What offers are made from, read at once for however many decks. */
interface InTheRack {
  readonly specs: ReadonlyMap<string, SpecFigures>;
  readonly spindlesOf: ReadonlyMap<string, readonly SpindleRow[]>;
  /** Of each spec, those that nobody was offered yet. */
  readonly readyOf: ReadonlyMap<string, Hanging[]>;
  /** The blades that may be offered, and those that stay on, by their ids. */
  readonly hanging: ReadonlyMap<string, Hanging>;
  /** Where a deck's own blades hang, by its mower. */
  readonly pegOf: ReadonlyMap<string, string>;
}

async function inTheRack(
  database: Database,
  decks: readonly OfferedTo[],
  rows: readonly InRack[],
  known?: readonly Peg[],
): Promise<InTheRack> {
  const [revisions, pegs] = await Promise.all([listSpecs(database), known ?? pegsOf(database)]);
  const specs = new Map(revisions.map(({ specId, figures }) => [specId, figures]));
  const spindlesOf = new Map(decks.map(({ id, spindles }) => [id, spindles]));
  const members = await membersOf(database, rows, (specId) => specs.get(specId));
  const hanging = rows.flatMap((blade): Hanging[] => {
    const size = members.get(blade.id);
    return size ? [{ blade, size }] : [];
  });
  return {
    specs,
    spindlesOf,
    readyOf: groupedBy(
      hanging.filter(({ blade }) => blade.state === 'ready'),
      ({ blade }) => blade.specId,
    ),
    hanging: new Map(hanging.map((each) => [each.blade.id, each])),
    pegOf: new Map(
      pegs.flatMap((peg) => (peg.mowerId ? [[peg.mowerId, placeOfPeg(peg)] as const] : [])),
    ),
  };
}

/**
 * The ready blades most alike that a deck can take, in the order of its spindles. `codes` are those somebody has
 * picked: they are in it, first, and what goes best with them.
 */
export async function setOffer(
  database: Database,
  deckId: string,
  codes: readonly string[] = [],
): Promise<SetOffer> {
  const deck = await deckAt(database, deckId);
  const picked: string[] = [];
  for (const code of codes) {
    const bladeId = await pickedFor(database, deck, code);
    if (picked.includes(bladeId)) throw wrongField('with', $localize`has ${code} twice`);
    picked.push(bladeId);
  }
  if (picked.length > deck.spindles.length) {
    throw wrongField('with', $localize`has more blades than the ${deck.spindles.length} spindles`);
  }
  const rows = await inRackFor(database.models, { deckId, besides: picked });
  return offerFor(await inTheRack(database, [deck], rows), deck, { picked });
}

/** A blade picked by its code, which this deck takes; refused with the reason where it does not, and by how much. */
async function pickedFor(database: Database, deck: DeckRow, text: string): Promise<string> {
  const { bladeId, code, state } = await bladeByCode(database, text);
  const refuse = (why: string): Refusal => wrongField('with', `${code} ${why}`);
  const notFitted = BLADE_STATES[state].notFitted;
  if (notFitted) throw refuse(notFitted);
  const { specId } = await bladeOf(database.models, bladeId);
  const takes = deck.figures?.specId;
  if (!takes || specId === takes) return bladeId;
  const specs = new Map(
    (await listSpecs(database)).map(({ specId: id, figures }) => [id, figures]),
  );
  const [is, wanted] = [specs.get(specId), specs.get(takes)];
  if (!is || !wanted) throw refuse($localize`is of another spec than this deck takes`);
  const longer = is.newLengthMm - wanted.newLengthMm;
  const apart =
    Math.abs(longer) >= 0.5
      ? $localize`${said(Math.abs(longer), 'mm', 0)} too ${longer > 0 ? $localize`long` : $localize`short`}`
      : is.hand === wanted.hand
        ? $localize`not the same though as long`
        : $localize`a ${named(is.hand)}-hand blade, these turn the other way`;
  throw refuse($localize`is a ${is.name}:ph0:: ${apart}. This deck takes ${wanted.name}`);
}

/**
 * Offers for many decks, of `inRackFor` them all, soonest due first: a blade offered to one is not offered to the next.
 * Once `most` blades are offered the others are only told where too few are left for them.
 */
export async function setOffers(
  database: Database,
  decks: readonly OfferedTo[],
  { pegs, inRack, most }: { pegs: readonly Peg[]; inRack: readonly InRack[]; most: number },
): Promise<Map<string, SetOffer>> {
  const rack = await inTheRack(database, decks, inRack, pegs);
  const offers = new Map<string, SetOffer>();
  let offered = 0;
  for (const deck of decks) {
    const ready = rack.readyOf.get(deck.figures?.specId ?? '') ?? [];
    if (offered >= most && ready.length >= deck.spindles.length) {
      ready.splice(0, deck.spindles.length);
      continue;
    }
    const offer = offerFor(rack, deck);
    for (const { bladeId } of offer.blades) {
      const given = rack.hanging.get(bladeId);
      if (given) ready.splice(ready.indexOf(given), 1);
    }
    offered += offer.blades.length;
    offers.set(deck.id, offer);
  }
  return offers;
}

/** Ready blades for the empty spindles of a deck, most alike to those that stay on it. */
export async function replacementOffer(database: Database, deckId: string): Promise<SetOffer> {
  const { models } = database;
  const deck = await deckAt(database, deckId);
  const { spindles } = deck;
  const fits = await models.fit.findAll({
    where: { spindleId: spindles.map(({ id }) => id), to: null },
  });
  const staying = new Map(fits.map(({ spindleId, bladeId }) => [spindleId, bladeId]));
  const rows = await inRackFor(models, { deckId, besides: [...staying.values()] });
  return offerFor(await inTheRack(database, [deck], rows), deck, { staying });
}

async function deckAt({ models }: Database, deckId: string): Promise<OfferedTo> {
  const deck = await models.deck.findByPk(deckId, {
    include: ['spindles'],
    order: [['spindles', 'ordinal', 'ASC']],
  });
  if (!deck) throw new Refusal('notFound', $localize`There is no such deck.`);
  return { ...deck.get(), figures: deck.figures, spindles: deck.spindles ?? [] };
}

interface Besides {
  /** Blades picked for it, in the order of its spindles. */
  readonly picked?: readonly string[];
  /** Blades that stay on this deck, by spindle. */
  readonly staying?: ReadonlyMap<string, string>;
}

function offerFor(
  rack: InTheRack,
  deck: DeckRow,
  { picked = [], staying = new Map() }: Besides = {},
): SetOffer {
  const spindles = rack.spindlesOf.get(deck.id) ?? [];
  const specId = deck.figures?.specId;
  if (!specId) {
    return {
      ...NOTHING,
      refused: $localize`Nobody has said which blades this deck takes: measure it first.`,
    };
  }
  const spec = rack.specs.get(specId);
  const ofSpec = rack.readyOf.get(specId) ?? [];
  const ready = [
    ...ofSpec.slice(0, MOST_POOL),
    ...ofSpec.slice(MOST_POOL).filter(({ blade }) => picked.includes(blade.id)),
  ];
  const open = spindles.filter(({ id }) => !staying.has(id));
  if (open.length === 0) return { ...NOTHING, refused: $localize`Every spindle has its blade.` };
  if (!spec || ready.length < open.length) {
    const short = open.length - ready.length;
    return {
      ...NOTHING,
      refused: $localize`${short} short of a set: ${ready.length} of ${open.length} ready in the rack.`,
    };
  }
  const keep = [...staying.values(), ...picked].flatMap((id) => rack.hanging.get(id)?.size ?? []);
  // A set that hangs together on the mower's own peg goes on again as one, as long as it is alike.
  const ownPlace = rack.pegOf.get(deck.mowerId);
  const pool = ready.filter(({ blade }) => blade.place === ownPlace).map(({ size }) => size);
  const ownSet =
    pool.length + keep.length >= spindles.length
      ? bestSet(pool, spindles.length, { keep })
      : undefined;
  const own = ownSet !== undefined && ownSet.over.length === 0;
  const found = own
    ? ownSet
    : bestSet(
        ready.map(({ size }) => size),
        spindles.length,
        { keep },
      );
  const chosen = [...picked, ...found.ids.filter((id) => !keep.some((kept) => kept.id === id))];
  const blades = chosen.map((bladeId) => {
    const { blade, size } = rack.hanging.get(bladeId) ?? {};
    return {
      bladeId,
      code: blade?.code ?? '',
      specId,
      lengthMm: size?.lengthMm ?? spec.newLengthMm,
      widthMm: spec.newWidthMm,
      grinds: blade?.grinds ?? 0,
    };
  });
  const { faults, clash } = geometryOf(deck, spindles, (spindleId) => {
    const stays = keep.find(({ id }) => id === staying.get(spindleId));
    return stays
      ? { lengthMm: stays.lengthMm, widthMm: spec.newWidthMm }
      : blades[open.findIndex(({ id }) => id === spindleId)];
  });
  const over = [...found.over];
  const oddCode = found.oddId && rack.hanging.get(found.oddId)?.blade.code;
  return {
    blades,
    worst: found.worst,
    over,
    spread: found.spread,
    ...(oddCode ? { oddCode } : {}),
    ...(own ? { own } : {}),
    faults: [...faults],
    ...(clash ? { refused: $localize`They would strike each other: ${faults[0] ?? ''}.` } : {}),
  };
}
