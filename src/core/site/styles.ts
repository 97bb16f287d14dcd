import * as css from 'css-tree';

/** A face of a font that a style sheet brings. */
export interface FontFace {
  readonly family: string;
  readonly weight: string;
  readonly style: string;
  readonly sources: readonly string[];
}

export interface StyleFacts {
  readonly imports: readonly string[];
  readonly fonts: readonly FontFace[];
}

/** What a style sheet brings along: other sheets, and fonts. Addresses are as written: relative to the sheet itself. */
export function readStyle(text: string): StyleFacts {
  const imports: string[] = [];
  const fonts: FontFace[] = [];
  const sheet = css.parse(text, {
    parseValue: true,
    parseRulePrelude: false,
    parseCustomProperty: false,
    onParseError: () => {},
  });
  css.walk(sheet, {
    visit: 'Atrule',
    enter(rule) {
      if (rule.name.toLowerCase() === 'import' && rule.prelude) {
        const first = css.find(rule.prelude, (n) => n.type === 'String' || n.type === 'Url');
        if (first && 'value' in first && typeof first.value === 'string') imports.push(first.value);
      }
      if (rule.name.toLowerCase() === 'font-face' && rule.block) fonts.push(faceOf(rule.block));
    },
  });
  return { imports, fonts };
}

function faceOf(block: css.Block): FontFace {
  const declared: Record<string, string> = {};
  const sources: string[] = [];
  css.walk(block, {
    visit: 'Declaration',
    enter(d) {
      declared[d.property.toLowerCase()] = css.generate(d.value);
      if (d.property.toLowerCase() === 'src')
        css.walk(d.value, { visit: 'Url', enter: (u) => void sources.push(u.value) });
    },
  });
  return {
    family: (declared['font-family'] ?? '').replace(/^["']|["']$/g, ''),
    weight: declared['font-weight'] ?? '400',
    style: declared['font-style'] ?? 'normal',
    sources,
  };
}
