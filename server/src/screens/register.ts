import { BLADE_STATES, BLADE_STATE_KEYS } from '@tally-stone/core';
import type { RegisterQuery, RegisterView } from '@tally-stone/contract';
import { createHash } from 'node:crypto';
import { QueryTypes } from 'sequelize';
import { wrongField } from '@tally-stone/cycle';
import type { Database } from '../database.js';
import { livesLeft } from '../wear/lives-left.js';
import { shopOf } from '../shop/look-up.js';
import { listSpecs } from '../spec/specs.js';
import {
  FROM_BLADES,
  LAST_GROUND,
  anywhere,
  bladeRows,
  bladeRowsOf,
  placeHas,
} from './blade-rows.js';

/** What each column sorts by; a blade's serial settles the rest, so that pages never overlap. */
const SORTS: Readonly<Record<Exclude<RegisterQuery['sort'], 'left'>, string>> = {
  code: 'bladeCode.serial',
  spec: 'spec.name',
  state: 'blade.state',
  place: 'blade.place',
  grinds: 'blade.grinds',
  waiting: 'blade.waitingSince',
  'last-grind': LAST_GROUND,
};

const wordsOf = ({ text }: RegisterQuery): string[] =>
  text.trim().split(/\s+/).filter(Boolean).slice(0, 8);

/** Blades that are on one of these mowers, or came off one last. */
async function onMowers({ connection }: Database, mowerIds: string[]): Promise<string[]> {
  if (mowerIds.length === 0) return [];
  const found = await connection.sequelize.query<{ bladeId: string }>(
    `SELECT fit.bladeId AS bladeId FROM deck JOIN spindle ON spindle.deckId = deck.id
       JOIN fit ON fit.spindleId = spindle.id
     WHERE deck.mowerId IN (:mowerIds) AND NOT EXISTS (SELECT 1 FROM fit AS later
       WHERE later.bladeId = fit.bladeId AND (later."from", later.id) > (fit."from", fit.id))`,
    { type: QueryTypes.SELECT, replacements: { mowerIds } },
  );
  return found.map(({ bladeId }) => bladeId);
}

/**
 * Each word must be somewhere in what the row shows: code, spec, place, state or mower. States, specs and mowers are few:
 * they are looked through here, by the words the reader sees, and the blades by which of them they have.
 */
async function whereOf(
  database: Database,
  query: RegisterQuery,
): Promise<{ sql: string; replacements: Record<string, string | string[]> }> {
  const conditions: string[] = [];
  const replacements: Record<string, string | string[]> = {};
  const words = wordsOf(query);
  const [specs, mowers] =
    words.length === 0
      ? [[], []]
      : await Promise.all([
          listSpecs(database),
          database.models.mower.findAll({ attributes: ['id', 'name'], raw: true }),
        ]);
  for (const [i, word] of words.entries()) {
    const has = (text: string): boolean => text.toLowerCase().includes(word.toLowerCase());
    const named = mowers.filter(({ name }) => has(name)).map(({ id }) => id);
    const oneOf = {
      'blade.state': BLADE_STATE_KEYS.filter((state) => has(BLADE_STATES[state].words)),
      'blade.specId': specs.filter(({ figures }) => has(figures.name)).map(({ specId }) => specId),
      'blade.id': await onMowers(database, named),
    };
    const some = Object.entries(oneOf).filter(([, values]) => values.length > 0);
    for (const [column, values] of some) replacements[`${column}${i}`.replace('.', '')] = values;
    const place = placeHas(word, `place${i}at`);
    Object.assign(replacements, place.replacements, { [`word${i}`]: anywhere(word) });
    conditions.push(
      `(${[
        ...some.map(([column]) => `${column} IN (:${column.replace('.', '')}${i})`),
        place.sql,
        `bladeCode.code LIKE :word${i} ESCAPE '\\'`,
      ].join(' OR ')})`,
    );
  }
  if (query.state) {
    conditions.push('blade.state = :state');
    replacements['state'] = query.state;
  }
  if (query.specId) {
    conditions.push('blade.specId = :specId');
    replacements['specId'] = query.specId;
  }
  return { sql: conditions.length === 0 ? '' : `WHERE ${conditions.join(' AND ')}`, replacements };
}

const orderOf = ({ down }: RegisterQuery, sort: keyof typeof SORTS): string => {
  const direction = down ? 'DESC' : 'ASC';
  return `${SORTS[sort]} ${direction}, bladeCode.serial ${direction}`;
};

/** The lives of more blades than this take too long for somebody who waits. */
const MOST_BY_LIFE = 1000;

/** A page of what was found by the grinds that are left; of what nothing is known comes last either way. */
async function byGrindsLeft(
  database: Database,
  { down, offset, limit }: RegisterQuery,
  found: readonly { readonly id: string }[],
): Promise<readonly { readonly id: string }[]> {
  if (found.length > MOST_BY_LIFE)
    throw wrongField(
      'sort',
      $localize`by grinds left takes ${MOST_BY_LIFE} blades at most, and ${found.length} were found: look for a spec or a state first`,
    );
  // Another way to retire, or a limit that was changed, leaves other rooms.
  const [specs, { rules }] = await Promise.all([listSpecs(database), shopOf(database)]);
  const under = [rules.retireBy, ...specs.map(({ specRevisionId }) => specRevisionId)].join();
  const ids = found.map(({ id }) => id);
  const of = createHash('sha256').update(ids.join()).digest('hex');
  const all = await database.signed.of(`lives left ${of} ${under}`, () => livesLeft(database, ids));
  const left = ({ id }: { readonly id: string }): number => {
    const grinds = all.get(id)?.grinds.median;
    return grinds === undefined ? Infinity : down ? -grinds : grinds;
  };
  return [...found]
    .sort((a, b) => (left(a) === left(b) ? 0 : left(a) - left(b)))
    .slice(offset, offset + limit);
}

/** One page of the register. Found and sorted are ids alone; only the page's own rows are looked up whole. */
export async function registerPage(
  database: Database,
  query: RegisterQuery,
): Promise<RegisterView> {
  const { sql, replacements } = await whereOf(database, query);
  const { limit, offset, sort } = query;
  const ask = <Row extends object>(text: string): Promise<Row[]> =>
    database.connection.sequelize.query<Row>(text, { type: QueryTypes.SELECT, replacements });
  const foundIds = `SELECT blade.id AS id ${FROM_BLADES} ${sql}`;
  const page = async (): Promise<RegisterView['blades']> => {
    if (sort === 'left') {
      const found = await ask<{ id: string }>(`${foundIds} ORDER BY bladeCode.serial`);
      const ids = (await byGrindsLeft(database, query, found)).map(({ id }) => id);
      return bladeRowsOf(database, ids, { lastGround: true });
    }
    const order = orderOf(query, sort);
    const ofPage = `blade.id IN (${foundIds} ORDER BY ${order} LIMIT ${limit} OFFSET ${offset})`;
    return bladeRows(database, ofPage, replacements, { limit, order, lastGround: true });
  };
  const [blades, states] = await Promise.all([
    page(),
    ask<{ state: keyof RegisterView['states']; blades: number }>(
      `SELECT blade.state AS state, count(*) AS blades
       ${query.text.trim() === '' ? 'FROM blade' : FROM_BLADES} ${sql} GROUP BY blade.state`,
    ),
  ]);
  return {
    blades,
    total: states.reduce((sum, { blades }) => sum + blades, 0),
    states: Object.fromEntries(states.map(({ state, blades }) => [state, blades])),
  };
}
