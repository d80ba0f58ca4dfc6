/**
 * Where the service worker keeps what the server answered last, and the header that says when. The number goes up when a
 * view has something new that its screen cannot do without: what was kept before is not shown then.
 */
export const SEEN_CACHE = 'seen-3';
export const SEEN_BEFORE = ['seen'];
export const SEEN_AT = 'x-seen-at';
