import type {
  CycleCommand,
  CycleEvent,
  CycleFacts,
  CycleState,
  TakenReading,
} from '@tally-stone/contract';
import { widthFromPhoto, named } from '@tally-stone/core';
import { PHOTO_MAT } from './instruments.js';
import { Refusal, wrongField } from './refusal.js';

type ReadEdge = Extract<CycleCommand, { type: 'read-edge' }>;

/** Widths of a photo are given to this, mm. */
const EDGE_RESOLUTION_MM = 0.01;

/** Widths at stations from a photo of the edge; those that it does not show are refused. */
export function readEdge(command: ReadEdge, state: CycleState, facts: CycleFacts): CycleEvent {
  const { edgeId, file, end, phase, edge, occurredAt } = command;
  const { spec, mats } = facts;
  if (!state.cleaned) {
    throw new Refusal(
      'refused',
      $localize`Clean the blade first: dirt on the edge is read as steel.`,
    );
  }
  if (!mats.some(({ matNumber }) => matNumber === edge.matNumber)) {
    throw wrongField(
      'edge.matNumber',
      $localize`is mat ${edge.matNumber}, whose bars nobody has measured: measure them once, under Shop`,
    );
  }
  const readings = command.readings.map(({ readingId, stationKey }, i): TakenReading => {
    const station = spec.stations.find(({ key }) => key === stationKey);
    if (!station)
      throw wrongField(`readings.${i}.stationKey`, $localize`is not a station of this blade spec`);
    const width = widthFromPhoto(edge, spec.edgeLengthMm, spec.newLengthMm / 2, station);
    if (!width) {
      throw wrongField(
        `readings.${i}.stationKey`,
        $localize`is not to be seen on this photo: take ${named(station.name).toLowerCase()} with the caliper`,
      );
    }
    return {
      readingId,
      phase,
      quantity: 'width',
      end,
      stationKey,
      radiusMm: station.radiusMm,
      value: width.value,
      u: width.u,
      resolution: EDGE_RESOLUTION_MM,
      entered: { text: width.value.toFixed(2), unit: 'mm' },
      repeat: false,
      source: 'instrument',
      instrument: PHOTO_MAT,
      at: occurredAt,
      edgeId,
    };
  });
  return {
    type: 'edge-read',
    edge: { ...edge, edgeId, file, end, phase, at: occurredAt },
    readings,
  };
}
