/** Where the service worker keeps what the server answered last, and the header that says when. */
export const SEEN_CACHE = 'seen';
export const SEEN_AT = 'x-seen-at';
