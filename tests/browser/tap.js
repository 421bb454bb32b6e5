// Listens at the player's node, inside the audio graph, and looks at the view's scale.
(() => {
  // It posts seldom: a message for each quantum would keep the page from its own work.
  const code = `registerProcessor('tap', class extends AudioWorkletProcessor {
    rows = new Float32Array(4 * 2048);
    filled = 0;
    whens = [];
    process([sound, place]) {
      if (!place?.length || !sound?.length) return true;
      const n = place[0].length;
      this.whens.push(Date.now());
      const { rows } = this;
      for (let i = 0, k = 4 * this.filled; i < n; i++, k += 4) {
        rows[k] = place[0][i];
        rows[k + 1] = place[1][i];
        rows[k + 2] = sound[0][i];
        rows[k + 3] = (sound[1] ?? sound[0])[i];
      }
      this.filled += n;
      if (4 * this.filled >= rows.length) {
        this.port.postMessage([rows, this.whens]);
        this.rows = new Float32Array(4 * 2048);
        this.filled = 0;
        this.whens = [];
      }
      return true;
    }
  });`;
  const tap = {
    parts: [],
    // Samples since the last take that are said to be a render's.
    heard: 0,
    // When each 128 samples passed, by the clock of events, in ms.
    whens: [],
    states: 0,
    starved: 0,
    reports: [],
    take() {
      this.whens = [];
      this.heard = 0;
      const all = new Uint8Array(this.parts.reduce((n, p) => n + p.byteLength, 0));
      let at = 0;
      for (const p of this.parts) {
        all.set(new Uint8Array(p.buffer), at);
        at += p.byteLength;
      }
      this.parts = [];
      let text = '';
      for (let i = 0; i < all.length; i += 32768)
        text += String.fromCharCode(...all.subarray(i, i + 32768));
      return btoa(text);
    },
    // What there was to hear, for whoever has waited in vain.
    told() {
      const places = this.parts.flatMap((rows) => Array.from(rows.filter((_, i) => i % 4 === 0)));
      const [last, state] = [this.reports.at(-1), this.context?.state];
      return (
        `of ${places.length} samples ${this.heard} were a render's; ${this.starved} reports that ` +
        `nothing was there; the device is ${state}; last ${JSON.stringify(last)}`
      );
    },
    // Largest value that has come out since the last take.
    loudest() {
      return this.parts.reduce(
        (most, p) => p.reduce((m, v, i) => (i % 4 === 2 ? Math.max(m, Math.abs(v)) : m), most),
        0,
      );
    },
    // The sample that is heard now, from the worklet's own reports and the sound card's clock.
    now() {
      const last = this.reports.at(-1);
      if (!last?.playing) return -1;
      const stamp = this.context.getOutputTimestamp();
      const time = stamp.contextTime + (performance.now() - stamp.performanceTime) / 1000;
      return last.position + time * this.context.sampleRate - last.frame;
    },
  };
  window.__tap = tap;
  // States of a draft that are handed to the player one after another.
  const NativeWorker = window.Worker;
  window.Worker = class extends NativeWorker {
    constructor(...given) {
      super(...given);
      this.addEventListener('message', ({ data }) => {
        if (data.type === 'heard' && data.fresh) tap.states++;
      });
    }
  };
  const Native = window.AudioWorkletNode;
  window.AudioWorkletNode = class extends Native {
    constructor(context, name, options) {
      super(context, name, options);
      if (name !== 'block-player') return;
      tap.context = context;
      this.port.addEventListener('message', (e) => {
        if (e.data.type !== 'at') return;
        tap.reports.push(e.data);
        if (e.data.starving) tap.starved++;
      });
      const url = URL.createObjectURL(new Blob([code], { type: 'text/javascript' }));
      tap.ready = context.audioWorklet.addModule(url).then(() => {
        const node = new Native(context, 'tap', {
          numberOfInputs: 2,
          numberOfOutputs: 1,
          channelCount: 2,
          channelCountMode: 'explicit',
        });
        node.port.onmessage = ({ data: [rows, whens] }) => {
          tap.parts.push(rows);
          for (let k = 0; k < rows.length; k += 4) if (rows[k] >= 0) tap.heard++;
          tap.whens.push(...whens.map((when) => when - performance.timeOrigin));
        };
        this.connect(node, 0, 0);
        this.connect(node, 1, 1);
        const mute = new GainNode(context, { gain: 0 });
        node.connect(mute).connect(context.destination);
      });
    }
  };
  Object.defineProperty(window, '__view', {
    get() {
      const cut = [...document.querySelectorAll('.shot')].map((s) => parseFloat(s.style.left));
      // Shots begin at frames 0, 100, 250, 400 of 1920 samples each.
      const scale = (150 * 1920) / (cut[2] - cut[1]);
      return [100 * 1920 - cut[1] * scale, scale];
    },
  });
})();
