import { BLADE_STATES, BLADE_STATE_KEYS } from '@tally-stone/core';
import type { RegisterQuery, RegisterView } from '@tally-stone/contract';
import { createHash } from 'node:crypto';
import { QueryTypes } from 'sequelize';
import { wrongField } from '@tally-stone/cycle';
import type { Database } from '../database.js';
import { livesLeft } from '../wear/lives-left.js';
import { shopOf } from '../shop/look-up.js';
import { listSpecs } from '../spec/specs.js';
import { bladeRowsOf } from './blade-rows.js';

/** When a blade was ground last, of those that are signed off. */
function lastGroundOf(bladeId: string): string {
  return `SELECT max(cycle.signedAt) FROM cycle WHERE cycle.bladeId = ${bladeId} AND cycle.signedAt IS NOT NULL
    AND EXISTS (SELECT 1 FROM pass WHERE pass.cycleId = cycle.id)`;
}

/** What each column sorts by; a blade's serial settles the rest, so that pages never overlap. */
const SORTS: Readonly<Record<Exclude<RegisterQuery['sort'], 'left'>, string>> = {
  code: 'bladeCode.serial',
  spec: 'spec.name',
  state: 'blade.state',
  place: 'blade.place',
  grinds: 'blade.grinds',
  waiting: 'blade.waitingSince',
  'last-grind': `(${lastGroundOf('blade.id')})`,
};

/** Words a state goes by on the screens, so that they can be looked for. */
const STATE_WORDS = `CASE blade.state ${BLADE_STATE_KEYS.map(
  (state) => `WHEN '${state}' THEN '${BLADE_STATES[state].words}'`,
).join(' ')} END`;

const FROM = `FROM blade
  JOIN bladeCode ON bladeCode.bladeId = blade.id AND bladeCode."to" IS NULL
  JOIN spec ON spec.id = blade.specId`;

const wordsOf = ({ text }: RegisterQuery): string[] =>
  text.trim().split(/\s+/).filter(Boolean).slice(0, 8);

/** Blades on a mower whose name has the word, or that came off one last; hardly a word is in a mower's name. */
async function onMowerNamed({ connection, models }: Database, word: string): Promise<string[]> {
  const mowers = await models.mower.findAll({ attributes: ['id', 'name'] });
  const named = mowers.filter(({ name }) => name.toLowerCase().includes(word.toLowerCase()));
  if (named.length === 0) return [];
  const found = await connection.sequelize.query<{ bladeId: string }>(
    `SELECT fit.bladeId AS bladeId FROM deck JOIN spindle ON spindle.deckId = deck.id
       JOIN fit ON fit.spindleId = spindle.id
     WHERE deck.mowerId IN (:mowerIds) AND NOT EXISTS (SELECT 1 FROM fit AS later
       WHERE later.bladeId = fit.bladeId AND (later."from", later.id) > (fit."from", fit.id))`,
    { type: QueryTypes.SELECT, replacements: { mowerIds: named.map(({ id }) => id) } },
  );
  return found.map(({ bladeId }) => bladeId);
}

/** Each word must be somewhere in what the row shows: code, spec, place, state or mower. */
async function whereOf(
  database: Database,
  query: RegisterQuery,
): Promise<{ sql: string; replacements: Record<string, string | string[]> }> {
  const conditions: string[] = [];
  const replacements: Record<string, string | string[]> = {};
  for (const [i, word] of wordsOf(query).entries()) {
    const onMower = await onMowerNamed(database, word);
    replacements[`blades${i}`] = onMower;
    replacements[`word${i}`] = `%${word.replace(/[\\%_]/g, (sign) => `\\${sign}`)}%`;
    conditions.push(
      `(bladeCode.code LIKE :word${i} ESCAPE '\\' OR spec.name LIKE :word${i} ESCAPE '\\'
        OR blade.place LIKE :word${i} ESCAPE '\\' OR ${STATE_WORDS} LIKE :word${i} ESCAPE '\\'
        ${onMower.length > 0 ? `OR blade.id IN (:blades${i})` : ''})`,
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
  const ask = <Row extends object>(text: string): Promise<Row[]> =>
    database.connection.sequelize.query<Row>(text, { type: QueryTypes.SELECT, replacements });
  const [ids, states] = await Promise.all([
    query.sort === 'left'
      ? byGrindsLeft(
          database,
          query,
          await ask<{ id: string }>(
            `SELECT blade.id AS id ${FROM} ${sql} ORDER BY bladeCode.serial`,
          ),
        )
      : ask<{ id: string }>(
          `SELECT blade.id AS id ${FROM} ${sql}
           ORDER BY ${orderOf(query, query.sort)} LIMIT ${query.limit} OFFSET ${query.offset}`,
        ),
    ask<{ state: keyof RegisterView['states']; blades: number }>(
      `SELECT blade.state AS state, count(*) AS blades
       ${query.text.trim() === '' ? 'FROM blade' : FROM} ${sql} GROUP BY blade.state`,
    ),
  ]);
  const bladeIds = ids.map(({ id }) => id);
  const [rows, ground] = await Promise.all([
    bladeRowsOf(database, bladeIds),
    database.connection.sequelize.query<{ id: string; at: string | null }>(
      `SELECT blade.id AS id, (${lastGroundOf('blade.id')}) AS at FROM blade WHERE blade.id IN (:bladeIds)`,
      { type: QueryTypes.SELECT, replacements: { bladeIds } },
    ),
  ]);
  const groundAt = new Map(ground.map(({ id, at }) => [id, at]));
  return {
    blades: rows.map((row) => {
      const lastGroundAt = groundAt.get(row.bladeId);
      return lastGroundAt ? { ...row, lastGroundAt } : row;
    }),
    total: states.reduce((sum, { blades }) => sum + blades, 0),
    states: Object.fromEntries(states.map(({ state, blades }) => [state, blades])),
  };
}
