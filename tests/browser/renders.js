// Counts how many components draw themselves anew, told by the library that draws them.
(() => {
  const COMPONENTS = [0, 11, 14, 15];
  const WORKED = 1;
  window.__renders = 0;
  const count = (top) => {
    const stack = [top];
    while (stack.length) {
      const fiber = stack.pop();
      const before = fiber.alternate;
      if (COMPONENTS.includes(fiber.tag) && (fiber.flags & WORKED || !before)) window.__renders++;
      // The same children as before have not been looked at.
      if (before && before.child === fiber.child) continue;
      for (let child = fiber.child; child; child = child.sibling) stack.push(child);
    }
  };
  window.__REACT_DEVTOOLS_GLOBAL_HOOK__ = {
    renderers: new Map(),
    supportsFiber: true,
    inject: () => 1,
    checkDCE: () => undefined,
    onScheduleFiberRoot: () => undefined,
    onCommitFiberUnmount: () => undefined,
    onPostCommitFiberRoot: () => undefined,
    onCommitFiberRoot: (_, root) => count(root.current),
  };
})();
