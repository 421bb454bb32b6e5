/** Asks beside the page, so that what is drawn does not hold up what is heard. */
import type { Report, ToWorklet } from '../player/messages';
import { Asking } from './asking';
import { Line } from './line';
import type { FromHand, ToHand } from './messages';

let asking: Asking | undefined;
let player: MessagePort | undefined;

self.onmessage = ({ data, ports }: MessageEvent<ToHand>) => {
  switch (data.type) {
    case 'open': {
      const line = new Line(
        data.path,
        (frame) => asking?.take(frame),
        () => asking?.again(),
      );
      asking = new Asking(data.rate, {
        ask: (question) => line.ask(question),
        toPlayer: (message: ToWorklet) => player?.postMessage(message),
        toPage: (message: FromHand) => self.postMessage(message),
        now: () => performance.now(),
      });
      return;
    }
    case 'player':
      player = ports[0];
      if (player) player.onmessage = (e: MessageEvent<Report>) => asking?.setReport(e.data);
      return;
    case 'draft':
      asking?.setDraft(data);
      return;
    case 'over':
      asking?.setDraft(undefined);
      return;
    case 'transport':
      asking?.setTransport(data);
  }
};
