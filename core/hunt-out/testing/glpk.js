/** ` + 0.6 n_A_0 - 3 share` as terms. */
const terms = (text) => [...text.matchAll(/([+-])\s*(\d[\d.e+-]*)?\s*([a-zA-Z_]\w*)/g)].map(([, sign, number, name]) => ({
    name: name ?? '',
    coef: (sign === '-' ? -1 : 1) * Number(number ?? 1),
}));
/** Our LP text as GLPK wants it. */
export function glpkProgram(glpk, text) {
    const section = (from, to) => text
        .slice(text.indexOf(from) + from.length, text.indexOf(to))
        .split('\n')
        .map((line) => line.trim())
        .filter((line) => line !== '');
    const subjectTo = section('Subject To', 'Bounds').map((line) => {
        const [, name = '', left = '', sign = '', right = ''] = /^(\w+):(.*?)(<=|>=)\s*(\S+)$/.exec(line) ?? [];
        const bound = Number(right);
        const type = sign === '<=' ? glpk.GLP_UP : glpk.GLP_LO;
        return { name, vars: terms(left), bnds: { type, lb: bound, ub: bound } };
    });
    const bounds = section('Bounds', 'General').map((line) => {
        const [, low = '', name = '', high = ''] = /^(\S+) <= (\w+) <= (\S+)$/.exec(line) ?? [];
        return { name, type: glpk.GLP_DB, lb: Number(low), ub: Number(high) };
    });
    const [objective = ''] = section('Minimize', 'Subject To');
    return {
        name: 'plan',
        objective: { direction: glpk.GLP_MIN, name: 'obj', vars: terms(objective.replace('obj:', '')) },
        subjectTo,
        bounds,
        generals: section('General', 'End'),
    };
}
//# sourceMappingURL=glpk.js.map