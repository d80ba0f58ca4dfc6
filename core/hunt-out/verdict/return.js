/**
 * May a retired blade come back? Only where the reading that retired it has been corrected and nothing retires
 * it any more, with a second person beside the first, and with the blade itself unspoilt. It then comes back to
 * be inspected anew from the start, never straight to the rack. Common practice, no source.
 *
 * Shapes: findings of both looks (before and now), two persons' ids. Empty when nothing is in the way.
 * Example: a crack that was a scratch, corrected by one person alone, is blocked for the second person.
 * @example backFromRetirement({ findings: [], corrected: true, by: 'ash', second: 'ash', whole: true })[0].field // 'secondPersonId'
 */
export function backFromRetirement(request) {
    const still = request.findings.find(({ severity }) => severity === 'retire');
    return [
        ...(request.corrected
            ? []
            : [
                {
                    field: 'reading',
                    words: 'that retired it has not been corrected: correct it first',
                },
            ]),
        ...(still ? [{ field: 'reading', words: `still retires it: ${still.words}` }] : []),
        ...(request.second === '' || request.second === request.by
            ? [
                {
                    field: 'secondPersonId',
                    words: 'must be somebody else, who has looked at the blade too',
                },
            ]
            : []),
        ...(request.whole
            ? []
            : [
                {
                    field: 'whole',
                    words: 'is not said: a blade that was cut, bent or scrapped never comes back',
                },
            ]),
    ];
}
//# sourceMappingURL=return.js.map