// What the measures of the live engine put into the page.
export const sorted = (values) => [...values].sort((a, b) => a - b);
export const quantile = (values, share) => sorted(values)[Math.min(values.length - 1, Math.floor(values.length * share))] ?? NaN;

/** Runs in the page: a tap on the sum that counts the blocks left out and, while `keeps` is set, holds the last two minutes of them. */
export async function startTap() {
  const { engine } = window.garnetfinch;
  await engine.open();
  // `currentFrame` stands still for a block whenever the page holds the graph at that moment: blocks are counted here, and left out are
  // only those by which it runs ahead of the count.
  const code = `class Tap extends AudioWorkletProcessor {
    constructor() { super(); this.frame = -1; this.gaps = 0; }
    process(inputs) {
      if (this.frame < 0) this.frame = currentFrame;
      else this.frame += 128;
      for (; currentFrame > this.frame; this.frame += 128) this.gaps++;
      const samples = new Float32Array(128), first = inputs[0][0];
      if (first) samples.set(first);
      this.port.postMessage({ frame: this.frame, samples, gaps: this.gaps }, [samples.buffer]);
      return true;
    }
  }
  registerProcessor('bench-tap', Tap);`;
  await engine.context.audioWorklet.addModule(URL.createObjectURL(new Blob([code], { type: 'text/javascript' })));
  const tap = new AudioWorkletNode(engine.context, 'bench-tap', { numberOfOutputs: 0 });
  window.tap = { blocks: new Map(), gaps: 0, keeps: false };
  tap.port.onmessage = ({ data }) => {
    window.tap.gaps = data.gaps;
    if (!window.tap.keeps) return;
    window.tap.blocks.set(data.frame, data.samples);
    if (window.tap.blocks.size > 40000) window.tap.blocks.delete(window.tap.blocks.keys().next().value);
  };
  engine.master.connect(tap);
}

/** In the page: what a search finds, with all that hearing it needs; lists come without. */
export const wholeRowsInPage = () => {
  window.wholeRows = async (query) => {
    const { rows } = await (await fetch(`/api/v1/loops?${query}`)).json();
    return (await fetch(`/api/v1/loops?${rows.map(({ id }) => `id=${id}`).join('&')}`)).json();
  };
};

/** Every source that is started, with the frame it was given; blocks of the main thread over 50 ms. */
export function watch() {
  window.starts = [];
  window.longTasks = [];
  const start = AudioBufferSourceNode.prototype.start;
  AudioBufferSourceNode.prototype.start = function (when, offset) {
    window.starts.push({
      frame: when * 44100,
      asked: this.context.currentTime * 44100,
      offset: (offset ?? 0) * 44100,
      repeats: this.loop,
      transport: window.garnetfinch.engine.transport,
    });
    return start.apply(this, arguments);
  };
  new PerformanceObserver((list) => {
    for (const entry of list.getEntries()) window.longTasks.push(Math.round(entry.duration));
  }).observe({ type: 'longtask' });
}
