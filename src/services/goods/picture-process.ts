import { drawPicture } from './draw-picture';

/** A process that draws pictures which came from outside, one after the other: what takes too much of it is ended from without. */
process.on('message', (bytes: Uint8Array) => {
  void drawPicture(bytes).then((made) => process.send?.({ made }));
});
// Whoever started it is gone.
process.on('disconnect', () => process.exit());
