/** JSON Patch (RFC 6902: add, remove, replace) on a document that is never changed in place. */

export interface Op {
  op: 'add' | 'remove' | 'replace';
  path: string;
  value?: unknown;
}

export function applyPatch<T>(document: T, patch: readonly Op[]): T {
  return patch.reduce((doc, op) => apply(doc, op, partsOf(op.path)) as T, document);
}

function partsOf(path: string): string[] {
  return path
    .split('/')
    .slice(1)
    .map((part) => part.replaceAll('~1', '/').replaceAll('~0', '~'));
}

function apply(node: unknown, op: Op, [head, ...rest]: string[]): unknown {
  if (head === undefined) return op.value;
  if (Array.isArray(node)) {
    const copy = [...node];
    const index = head === '-' ? copy.length : Number(head);
    if (rest.length) copy[index] = apply(copy[index], op, rest);
    else if (op.op === 'add') copy.splice(index, 0, op.value);
    else if (op.op === 'remove') copy.splice(index, 1);
    else copy[index] = op.value;
    return copy;
  }
  const { [head]: old, ...others } = node as Record<string, unknown>;
  if (rest.length) return { ...others, [head]: apply(old, op, rest) };
  return op.op === 'remove' ? others : { ...others, [head]: op.value };
}
