import type { PhotoTrouble } from '@tally-stone/core';
import type { FileTrouble } from './photo.worker';

/** What was found, where a sentence tells it. */
interface Found {
  readonly found?: number | undefined;
  readonly otherEnd: 'A' | 'B';
  /** A share as the shop writes it. */
  readonly percent: (share: number) => string;
}

/** Why a picture is not used, and what to do: one sentence each. */
export const PHOTO_TROUBLES: Readonly<
  Record<PhotoTrouble | FileTrouble, (about: Found) => string>
> = {
  'no-picture': () => $localize`This file is not a picture that can be opened. Take a new one.`,
  'not-this-kind': () => $localize`This browser opens JPEG, PNG and WebP. Set the camera to JPEG.`,
  'too-big': () =>
    $localize`The file is over 40 MB. Take it with fewer pixels: 12 million are enough.`,
  'too-many-pixels': () =>
    $localize`More than 50 million pixels. Take it with fewer: 12 million are enough.`,
  'few-markers': ({ found }) =>
    $localize`${found ?? 0} of the mat’s 14 markers are seen. Take the whole mat, with nothing over the markers.`,
  'markers-covered': () =>
    $localize`Something lies over the markers where the ring is. Leave only the blade’s end on the mat, between the rows.`,
  'needs-two-mats': () =>
    $localize`The edge is longer than one mat. Lay two measured mats side by side and take both.`,
  'mats-askew': () =>
    $localize`The two mats do not lie in line. Lay them edge to edge, their rows level.`,
  'unknown-mat': ({ found }) =>
    $localize`Nobody has measured mat ${found ?? ''} yet. Measure its two bars once, under Shop, Instruments.`,
  'mat-not-flat': () =>
    $localize`The mat is not flat: a marker is out of its place. Smooth it, dry it, or print a new one.`,
  'too-far': () => $localize`Too far away. Go nearer, until the mat fills the picture.`,
  'too-slanted': ({ found }) =>
    $localize`Taken at a slant of ${Math.round(found ?? 0)}°. Hold the camera straight above the mat.`,
  blurred: () => $localize`Blurred. Rest the camera on something, or give it more light.`,
  'too-bright': () =>
    $localize`The paper is burnt out. Take it with less light or a shorter exposure.`,
  'too-dark': () => $localize`Too dark. Give it more light.`,
  'no-blade': () => $localize`There is no blade on the mat.`,
  'two-blades': () => $localize`There is more than one blade on the mat. Leave only this one.`,
  'outside-bed': () =>
    $localize`The blade or something else reaches out of the bed. Lay it between the rows.`,
  'lies-as-other-end': ({ otherEnd }) =>
    $localize`It lies as end ${otherEnd} does. Turn it: the tip goes to this end’s line.`,
  'tip-not-seen': () => $localize`The tip is not on the mat. Lay it at its line.`,
  glare: () =>
    $localize`Light on the steel hides the edge where the ring is. Turn the mat or move the light.`,
  'wrong-size': ({ found, percent }) =>
    $localize`The unworn bar reads ${percent(Math.abs(found ?? 0))} too ${(found ?? 0) > 0 ? $localize`wide` : $localize`narrow`}. Is this the mat that was measured, printed at 100 %, and this blade?`,
};
