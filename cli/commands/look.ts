import { colourName, sourceLabels, tokenLabels, valueLabel } from '../../src/core/look/labels';
import { tokenNames, tokenOf } from '../../src/core/look/tokens';
import { dress, wardrobeOf } from '../../src/core/look/wardrobe';
import type { Found } from '../../src/core/look/found/found';
import type { Worn } from '../../src/core/look/wear';
import { readLook } from '../../src/services/sites/read-look';
import type { Command, Output } from '../support/command';
import { readFrom } from '../support/site';

export const look: Command = {
  name: 'look',
  about: 'Tells the look of a website from its style sheets, and what a shop would wear of it.',
  usage: 'look DIR|ZIP',
  help: 'Nothing is laid out: shares are estimated by words and pictures, and what only a browser knows is said. The office measures the same in the real pages.\nExit status is 1 when the site itself has pairs of colours that cannot be read (WCAG 2.2).',
  options: {},
  needs: ['DIR'],
  async run({ args }, out) {
    const { reading, files, load } = await readFrom(args[0] ?? '', out);
    const found = await readLook({ pages: reading.pages, paths: files.paths, load, read: files.read });
    const { light, look: worn } = dress(wardrobeOf(found), {});
    out.give({ found, worn: worn.tokens, proofs: light.proofs, grounds: light.grounds });
    tellFound(found, out);
    tellWorn(light, out);
    for (const what of found.cannot) out.warn(`not known without a browser: ${what}`);
    return light.proofs.some((p) => p.remedy) ? 1 : 0;
  },
};

function tellFound(found: Found, out: Output): void {
  out.say(
    `Found on ${found.pages} ${found.pages === 1 ? 'page' : 'pages'}, from style sheets (shares are estimates)`,
  );
  for (const c of found.colours)
    out.say(
      `  ${c.value}  ${percent(c.share)}  ${colourName(c).padEnd(28)} ${c.sources.map((s) => sourceLabels[s]).join(', ')}`,
    );
  for (const f of found.fonts)
    out.say(
      `  ${f.face.slice(0, 26).padEnd(26)} ${percent(f.share)}  ${f.roles.join(', ')}; ${f.sizes.join(' ')} px`,
    );
  if (found.dark) out.say('  and a dark look for those who ask for one');
}

const percent = (share: number): string => `${(share * 100).toFixed(1)}%`.padStart(6);

function tellWorn(worn: Worn, out: Output): void {
  out.say('\nWorn by the shop');
  for (const name of tokenNames) {
    const { value, by, source } = worn.tokens[name];
    const from = by === 'thread' && source ? `takes ${sourceLabels[source]}` : 'made of the others';
    const proof = worn.proofs.find((p) => p.of === name);
    const figure = proof ? `${proof.ratio.toFixed(2)} on ${tokenLabels[proof.on].toLowerCase()}` : '';
    out.say(
      `  ${tokenLabels[name].slice(0, 30).padEnd(31)} ${valueLabel(tokenOf(name).kind, value).slice(0, 24).padEnd(25)} ${from.padEnd(32)} ${figure}`,
    );
  }
  for (const p of worn.proofs)
    if (p.remedy)
      out.say(
        `  ${tokenLabels[p.of]} has ${p.asFound.toFixed(2)} on the site and needs ${p.need}: ${tokenLabels[p.remedy.token].toLowerCase()} ${p.remedy.from} becomes ${p.remedy.to} (CIEDE2000 ${p.remedy.by.toFixed(1)})`,
      );
}
