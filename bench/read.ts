import autocannon from 'autocannon';
import { figure, median, type Measurement } from './support/figure';
import { bareServer } from './support/bare-server';
import { ask, startDemo } from './support/installation';

const ROUNDS = 3;
const SECONDS = 4;

/** A product read, against a bare node:http server that answers the same bytes, in turns. */
export const read: Measurement = async () => {
  const demo = await startDemo(4860);
  const path = '/v1/withybed/page?goods=round-log-basket';
  const { body } = await ask(`http://shop.localhost:${demo.port + 1}${path}`);
  const bare = await bareServer(4869, body);
  try {
    const rate = async (url: string) =>
      (
        await autocannon({
          url,
          connections: 20,
          duration: SECONDS,
          headers: { host: `shop.localhost:${demo.port + 1}` },
        })
      ).requests.average;
    const ours: number[] = [];
    const theirs: number[] = [];
    for (let i = 0; i < ROUNDS; i++) {
      theirs.push(await rate(`http://127.0.0.1:4869${path}`));
      ours.push(await rate(`http://127.0.0.1:${demo.port + 1}${path}`));
    }
    return [
      figure(
        'product read, cached',
        `${median(ours).toFixed(0)}/s`,
        `bare node:http ${median(theirs).toFixed(0)}/s`,
        (median(ours) / median(theirs)).toFixed(2),
        '0.7 or more',
      ),
    ];
  } finally {
    bare.kill();
    await demo.end();
  }
};
