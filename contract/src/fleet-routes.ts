import * as z from 'zod';
import './zod.js';
import { PageQuery } from './basics.js';
import { PATHS, type RouteName } from './paths.js';
import { EdgesByGrass, FleetView, GrassView, OfferQuery, SetOffer } from './fleet.js';
import { byId, type Route } from './route.js';
import { MowerView } from './views/common.js';

/** Routes about mowers and their decks. */
export const FLEET_ROUTES = {
  mowers: {
    method: 'get',
    path: PATHS.mowers,
    summary: 'Mowers with their spindles and what is fitted',
    who: 'crew',
    query: PageQuery,
    answer: z.array(MowerView),
  },
  fleet: {
    method: 'get',
    path: PATHS.fleet,
    summary: 'Mowers with their decks: fit, strikes, when they are due and on which bench day',
    who: 'crew',
    answer: FleetView,
  },
  grass: {
    method: 'get',
    path: PATHS.grass,
    summary: 'What was seen of one mower’s cut tips, newest first',
    who: 'crew',
    params: byId,
    answer: GrassView,
  },
  edgesByGrass: {
    method: 'get',
    path: PATHS.edgesByGrass,
    summary: 'How long edges last by what the grass shows, by turf and soil',
    who: 'technician',
    answer: EdgesByGrass,
  },
  offer: {
    method: 'get',
    path: PATHS.offer,
    summary: 'The ready blades most alike that fit this deck, with those picked among them',
    who: 'technician',
    params: byId,
    query: OfferQuery,
    answer: SetOffer,
  },
  replacement: {
    method: 'get',
    path: PATHS.replacement,
    summary: 'The ready blades that go best with those still on a deck, for its empty spindles',
    who: 'technician',
    params: byId,
    answer: SetOffer,
  },
} as const satisfies Partial<Record<RouteName, Route>>;
