/** When a set is due, in words. */
export const DUE_WORDS = {
  get now() {
    return $localize`due now`;
  },
  get soon() {
    return $localize`due soon`;
  },
  get later() {
    return $localize`later`;
  },
  get unplanned() {
    return $localize`no rule`;
  },
} as const;
