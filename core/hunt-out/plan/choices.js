import { grindsAfter, planGrind } from './plan.js';
const without = (input, ids) => ({
    ...input,
    nicks: input.nicks.map((nick) => (ids.includes(nick.id) ? { ...nick, recessMm: 0 } : nick)),
});
/** Each obstacle's own remedy, nearest first; all nicks together only where one alone may not do. */
function tries(input, { obstacles }, grades) {
    const asked = input.nicks.filter(({ recessMm }) => recessMm > 0).map(({ id }) => id);
    const blamed = new Set(obstacles.flatMap(({ nickId }) => (nickId ? [nickId] : [])));
    const singles = asked.map((id) => ({
        kind: 'leave-nick',
        nickIds: [id],
        input: without(input, [id]),
    }));
    const all = asked.length > 1 ? [{ kind: 'leave-nicks', nickIds: asked, input: without(input, asked) }] : [];
    const { balance } = input;
    const looser = grades
        .filter(({ permissibleGmm }) => balance && permissibleGmm > balance.permissibleGmm)
        .map((grade) => ({
        kind: 'grade',
        nickIds: [],
        grade,
        input: {
            ...input,
            balance: balance && { ...balance, permissibleGmm: grade.permissibleGmm },
        },
    }));
    const short = obstacles.find(({ about }) => about === 'balance')?.short;
    const nearest = balance && short !== undefined
        ? [
            {
                kind: 'nearest-balance',
                nickIds: [],
                input: {
                    ...input,
                    balance: {
                        ...balance,
                        permissibleGmm: balance.permissibleGmm + short * 1.001 + 0.01,
                    },
                },
            },
        ]
        : [];
    const steps = obstacles.filter(({ about }) => about === 'straightness');
    const widest = Math.max(0, ...steps.map((step) => step.short));
    const step = widest > 0
        ? [
            {
                kind: 'allow-step',
                nickIds: [],
                input: { ...input, rules: { ...input.rules, straightness: 1, tip: undefined } },
            },
        ]
        : [];
    const ordered = [...singles].sort((a, b) => Number(blamed.has(b.nickIds[0] ?? '')) - Number(blamed.has(a.nickIds[0] ?? '')));
    return [...ordered, ...all, ...looser, ...nearest, ...step];
}
const priced = ({ kind, nickIds, grade, input }, { forward }) => ({
    kind,
    nickIds,
    grade,
    metalG: forward.metalG,
    worstRecessionMm: Math.max(...forward.stations.map(({ recessionMm }) => recessionMm)),
    unbalanceAfterGmm: forward.unbalanceGmm,
    grindsAfter: grindsAfter(input, forward),
});
/**
 * The nearest choices where there is no plan: leave one nick (or all), a looser grade, the balance as near as
 * it goes, a step in the edge. Only those that do lead to a plan, each with its price; never one that gives
 * on width or safety. What is always left besides: retire the blade.
 * @example nearestChoices(plan, { kind: 'no-plan', obstacles: [], toolTooCoarse: false }, [], solve).map(({ kind }) => kind) // []
 */
export function nearestChoices(input, none, grades, solve) {
    const found = tries(input, none, grades).flatMap((each) => {
        const plan = planGrind(each.input, solve);
        return plan.kind === 'plan' ? [priced(each, plan)] : [];
    });
    const one = found.some(({ kind }) => kind === 'leave-nick');
    return found.filter(({ kind }) => kind !== 'leave-nicks' || !one);
}
//# sourceMappingURL=choices.js.map