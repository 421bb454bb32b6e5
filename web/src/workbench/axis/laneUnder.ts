/** The lane of a track that lies under a pointer, whatever lies over it. */
export function laneUnder(m: globalThis.PointerEvent): HTMLElement | undefined {
  return window.document
    .elementsFromPoint(m.clientX, m.clientY)
    .find((el): el is HTMLElement => el instanceof HTMLElement && Boolean(el.dataset['track']));
}
