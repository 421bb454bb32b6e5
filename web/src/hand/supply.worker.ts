/** Asks for what is heard beside the page, so that what is drawn does not hold it up. */
import { Supply, type FromSupply, type ToSupply } from '../player/supply';
import type { Want } from '../player/plan';
import { Asking } from './asking';
import { Line } from './line';
import type { FromHand, ToHand } from './messages';

let supply: Supply | undefined;
let asking: Asking | undefined;
let line: Line | undefined;

const toPage = (message: FromHand | FromSupply) => self.postMessage(message);
const show = ({ loop, side }: Want) => asking?.setTransport({ loop, treated: side === 'treated' });

/** A hand may come, which asks over a line of its own. */
function call(path: string, rate: number) {
  const opened = new Line(
    path,
    (frame) => asking?.take(frame),
    () => asking?.again(),
  );
  line = opened;
  asking = new Asking(rate, {
    ask: (question) => opened.ask(question),
    toPlayer: (message) => supply?.say(message),
    toPage: (message) => {
      if (message.type === 'heard' && message.serial === supply?.hand)
        supply.noteDraft(message, message.fresh, message.ranges);
      toPage(message);
    },
    now: () => performance.now(),
  });
  if (supply?.want) show(supply.want);
}

self.onmessage = ({ data, ports }: MessageEvent<ToHand | ToSupply>) => {
  switch (data.type) {
    case 'open':
      supply = new Supply(data, toPage, (report) => asking?.setReport(report), show);
      return;
    case 'call':
      call(data.path, data.rate);
      return;
    case 'hang-up':
      asking?.setDraft(undefined);
      line?.close();
      [asking, line] = [undefined, undefined];
      return;
    case 'draft':
      asking?.setDraft(data);
      if (data.commands.length) supply?.makeWay();
      return;
    case 'over':
      asking?.setDraft(undefined, data.kept);
      return;
    default:
      supply?.receive(data, ports[0]);
  }
};
