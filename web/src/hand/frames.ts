/** The frames of an answer to a draft: two sizes, JSON, and planar sound. */

export interface Frame {
  said: unknown;
  sound: Float32Array;
}

const HEAD = 8;

/** Read frames one by one as they arrive. */
export async function* framesOf(body: ReadableStream<Uint8Array>): AsyncGenerator<Frame> {
  const reader = body.getReader();
  let held = new Uint8Array(0);
  for (;;) {
    const { done, value } = await reader.read();
    if (value) held = joined(held, value);
    for (let size = sizeOf(held); size !== undefined && held.length >= size; size = sizeOf(held)) {
      yield frameOf(held.slice(0, size));
      held = held.slice(size);
    }
    if (done) return;
  }
}

function sizeOf(held: Uint8Array): number | undefined {
  if (held.length < HEAD) return undefined;
  const view = new DataView(held.buffer, held.byteOffset, HEAD);
  return HEAD + view.getUint32(0, true) + view.getUint32(4, true);
}

function frameOf(bytes: Uint8Array): Frame {
  const words = new DataView(bytes.buffer).getUint32(0, true);
  const text = new TextDecoder().decode(bytes.subarray(HEAD, HEAD + words));
  return {
    said: JSON.parse(text) as unknown,
    sound: new Float32Array(bytes.buffer.slice(HEAD + words)),
  };
}

function joined(a: Uint8Array, b: Uint8Array): Uint8Array<ArrayBuffer> {
  const both = new Uint8Array(a.length + b.length);
  both.set(a);
  both.set(b, a.length);
  return both;
}
