const KEY = 'tally-stone.window';

/**
 * One name for this window, kept over a reload so that it finds the blade it holds again. It is written down only as
 * the page goes: a window that was duplicated or opened from this one finds nothing and takes a name of its own.
 */
function nameOfThisWindow(): string {
  const left = sessionStorage.getItem(KEY);
  sessionStorage.removeItem(KEY);
  const name =
    left ?? `${Date.now().toString(36)}-${performance.now().toString(36).replace('.', '')}`;
  window.addEventListener('pagehide', () => {
    sessionStorage.setItem(KEY, name);
  });
  window.addEventListener('pageshow', () => {
    sessionStorage.removeItem(KEY);
  });
  return name;
}

let known: string | undefined;
export const windowName = (): string => (known ??= nameOfThisWindow());
