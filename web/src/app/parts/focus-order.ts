/** Where the focus goes when something was kept: the next thing still to do, else the big button. */
export function nextToDo(panel: HTMLElement, from: Element | null): HTMLElement | undefined {
  const todo = [...panel.querySelectorAll<HTMLElement>('[data-todo="true"]')];
  const after = todo.find(
    (element) =>
      from === null ||
      (from.compareDocumentPosition(element) & Node.DOCUMENT_POSITION_FOLLOWING) > 0,
  );
  return (
    after ?? todo[0] ?? panel.querySelector<HTMLElement>('.next-thing:not([disabled])') ?? undefined
  );
}
