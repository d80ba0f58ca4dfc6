/** The register is looked through by mower too: the fits of a spindle out of an index, not a scan of all. */
export const fitsOfASpindle = {
  name: '0008-fits-of-a-spindle',
  up: ['CREATE INDEX fitBySpindle ON fit (spindleId, bladeId)'],
};
