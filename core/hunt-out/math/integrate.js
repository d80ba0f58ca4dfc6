/** Gauss–Legendre on [0, 1], 7 points: exact to degree 13. */
const NODES = [
    [0.0254460438286207, 0.0647424830844349],
    [0.1292344072003028, 0.1398526957446384],
    [0.2970774243113014, 0.1909150252525595],
    [0.5, 0.2089795918367347],
    [0.7029225756886985, 0.1909150252525595],
    [0.8707655927996972, 0.1398526957446384],
    [0.9745539561713793, 0.0647424830844349],
];
/** ∫ f over [low, high] by one 7-point rule. */
function gauss(f, low, high) {
    const width = high - low;
    return NODES.reduce((sum, [node, weight]) => sum + weight * width * f(low + width * node), 0);
}
/**
 * ∫ f over [low, high], halving until two halves agree with the whole to `tolerance` (absolute, or relative
 * where the integral is above one). Exact at once where f is a polynomial of degree 13 or less.
 * Example: ∫₀¹ 3x² dx is 1.
 * @example integrate((x) => 3 * x * x, 0, 1) // 1.0000000
 */
export function integrate(f, low, high, tolerance = 1e-12, depth = 48) {
    const whole = gauss(f, low, high);
    const middle = (low + high) / 2;
    const halves = gauss(f, low, middle) + gauss(f, middle, high);
    if (depth <= 0 || Math.abs(halves - whole) <= tolerance * (1 + Math.abs(halves)))
        return halves;
    return (integrate(f, low, middle, tolerance, depth - 1) +
        integrate(f, middle, high, tolerance, depth - 1));
}
/**
 * Root of a monotone f in [low, high] by bisection to the last bit of a double's half.
 * @example bisect((x) => x * x - 2, 0, 2) // 1.414214
 */
export function bisect(f, low, high) {
    const rising = f(low) <= f(high);
    let a = low;
    let b = high;
    for (let i = 0; i < 200 && b - a > 1e-14 * Math.max(1, Math.abs(a)); i++) {
        const middle = (a + b) / 2;
        if (f(middle) > 0 === rising)
            b = middle;
        else
            a = middle;
    }
    return (a + b) / 2;
}
//# sourceMappingURL=integrate.js.map