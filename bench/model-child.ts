import { runModel } from '../src/services/till/model/run';

/** Walks the till's model in a process of its own. argv: how many sequences, the seed. Prints what came of it as JSON. */
const [runs = '0', seed = '1'] = process.argv.slice(2);
/** Twice as long as in bin/test: what needs much to go before comes about. */
const MOST_STEPS = 80;
const came = await runModel({ runs: Number(runs), seed: Number(seed), most: MOST_STEPS });
process.stdout.write(`${JSON.stringify(came)}\n`);
process.exit(0);
