/** Where the focus goes when something was kept: the next thing still to do, else the big button. */
export function nextToDo(panel: HTMLElement, from: Element | null): HTMLElement | undefined {
  const todo = [...panel.querySelectorAll<HTMLElement>('[data-todo="true"]')];
  const after = todo.find(
    (element) =>
      from === null ||
      (from.compareDocumentPosition(element) & Node.DOCUMENT_POSITION_FOLLOWING) > 0,
  );
  const next = after ?? todo[0] ?? panel.querySelector<HTMLElement>('.next-thing:not([disabled])');
  return next ? pressed(next) : undefined;
}

/** A toggle's own element takes no focus: the button in it does. */
const pressed = (element: HTMLElement): HTMLElement =>
  element.matches('button, input, select, a')
    ? element
    : (element.querySelector<HTMLElement>('button, input, select, a') ?? element);
