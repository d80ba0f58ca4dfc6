import type { Agreement, GrinderView, ToolRemoval } from '@tally-stone/contract';
import {
  inHand,
  innerZone,
  squareZone,
  learnHand,
  learnZones,
  teachesOf,
  trailingZone,
  usualGramsPer,
  usualZones,
  type CountedTool,
  type LearnedZones,
  type ZoneGrind,
  type ZoneKey,
} from '@tally-stone/core';
import type { Book } from '../database.js';
import { everyZone, finishedGrinds, partsOf, type Part } from './finished-grinds.js';

/** The agreement is told over so many grinds, and from so many on. */
const AGREEMENT_OVER = 20;
const AGREEMENT_FROM = 5;

/** Each grind foretold from those before it only, or the tool would agree with itself. */
function agreementOf(
  grinds: readonly ZoneGrind[],
  { foretold }: LearnedZones,
): Agreement | undefined {
  const differences = grinds
    .flatMap(({ removedG }, i) => {
      const predicted = foretold[i];
      return predicted ? [predicted.value - removedG] : [];
    })
    .slice(-AGREEMENT_OVER);
  if (differences.length < AGREEMENT_FROM) return undefined;
  const n = differences.length;
  return {
    grinds: n,
    biasG: differences.reduce((sum, each) => sum + each, 0) / n,
    rmsG: Math.sqrt(differences.reduce((sum, each) => sum + each * each, 0) / n),
  };
}

/** Where nobody has said on what: as on a machine, in passes. */
const UNSAID: CountedTool = { kind: 'belt', counts: 'pass' };

/**
 * Grams of what is counted on this grinder with this abrasive: what the shop has learned on tools of its kind,
 * counted in the same way, is where it starts, its own grinds carry it on, and where `by` has shown a hand of
 * their own on it, that counts too. Without a grinder (nobody has said which) it is the shop's.
 */
export async function toolRemoval(
  book: Book,
  grinders: readonly Pick<GrinderView, 'grinderId' | 'figures'>[],
  edgeLengthMm: number,
  tool?: Tool,
  by?: string,
): Promise<ToolRemoval> {
  const figures =
    grinders.find(({ grinderId }) => grinderId === tool?.grinderId)?.figures ?? UNSAID;
  const alike = grinders
    .filter((each) => teachesOf(each.figures, figures))
    .map(({ grinderId }) => grinderId);
  const question = ['removal', edgeLengthMm, tool?.grinderId, tool?.abrasiveId, by, ...alike];
  return book.signed.of(JSON.stringify(question), async () => {
    const grinds = await book.signed.of('finished grinds', () => finishedGrinds(book));
    const countedOn = ({ grinderId }: Part): CountedTool =>
      grinders.find((each) => each.grinderId === grinderId)?.figures ?? UNSAID;
    const parts = partsOf(grinds, (part) => usualGramsPer(countedOn(part)));
    const teaching = parts.filter(({ grinderId }) =>
      grinderId === undefined ? teachesOf(UNSAID, figures) : alike.includes(grinderId),
    );
    return learnRemoval(teaching, edgeLengthMm, figures, tool, by);
  });
}

interface Tool {
  readonly grinderId: string;
  readonly abrasiveId: string;
}

function learnRemoval(
  parts: readonly Part[],
  edgeLengthMm: number,
  counted: CountedTool,
  tool: Tool | undefined,
  by: string | undefined,
): ToolRemoval {
  const usual = usualGramsPer(counted);
  // All belts and wheels this grinder has had: what it does with a new one is what it did with the last when new.
  const own = ({ grinderId }: Part): boolean => grinderId === tool?.grinderId;
  const shop = learnZones(
    tool ? parts.filter((part) => !own(part)) : parts,
    everyZone(edgeLengthMm, usual),
  );
  const start = shop.perZone['full']?.value ?? usual;
  const ownGrinds = tool ? parts.filter(own) : parts;
  const priors = everyZone(edgeLengthMm, start);
  const now = tool && `${tool.grinderId} ${tool.abrasiveId}`;
  const anyHand = tool ? learnZones(ownGrinds, priors, now) : shop;
  const hand = tool && by ? learnHand(by, ownGrinds, priors) : undefined;
  const learned = hand ? inHand(anyHand, hand) : anyHand;
  const gramsOf = (key: ZoneKey): number | undefined => learned.perZone[key]?.value;
  const fullG = gramsOf('full') ?? start;
  return {
    learned,
    zones: usualZones(edgeLengthMm, fullG, gramsOf),
    trailing: trailingZone(edgeLengthMm, fullG, gramsOf('back')),
    special: [
      innerZone(edgeLengthMm, fullG, gramsOf('inner')),
      squareZone(edgeLengthMm, fullG, gramsOf('square')),
    ],
    agreement: agreementOf(ownGrinds, anyHand),
    hand,
  };
}
