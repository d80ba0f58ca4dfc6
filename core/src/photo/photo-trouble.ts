import type { PicturePoint } from './picture.js';

/** Why a picture is not used. */
export type PhotoTrouble =
  | 'few-markers'
  | 'markers-covered'
  | 'unknown-mat'
  | 'needs-two-mats'
  | 'mats-askew'
  | 'mat-not-flat'
  | 'too-far'
  | 'too-slanted'
  | 'blurred'
  | 'too-bright'
  | 'too-dark'
  | 'no-blade'
  | 'two-blades'
  | 'outside-bed'
  | 'lies-as-other-end'
  | 'tip-not-seen'
  | 'glare'
  | 'wrong-size';

export interface PhotoRefused {
  readonly refused: PhotoTrouble;
  /** Where on the picture, if it is somewhere. */
  readonly at?: PicturePoint;
  /** What was found, where the sentence tells a number: markers seen, mm, per cent. */
  readonly found?: number;
}
