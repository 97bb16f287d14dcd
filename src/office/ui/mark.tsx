import type { WidgetKind } from '../../core/placement/kind';
import { kindOf } from '../../core/placement/kinds';
import { buyButton } from '../../core/placement/kinds/buy-button';
import { mark as say } from '../words/ui';
/** The mark: a stall's awning over a counter. */
export function Mark() {
  return (
    <svg width="30" height="24" viewBox="0 0 30 24" aria-hidden="true">
      <path d="M4.5 2h21l3.5 9.5h-28z" fill="#1F6B45" />
      <path d="M8.3 11.5 11.3 2H15v9.5zM21.9 11.5 18.7 2h6.8l3.5 9.5z" fill="#CFE3D3" />
      <path d="M1 11.5h7v3a3.5 3.5 0 0 1-7 0zM15 11.5h7v3a3.5 3.5 0 0 1-7 0z" fill="#1F6B45" />
      <path d="M8 11.5h7v3a3.5 3.5 0 0 1-7 0zM22 11.5h7v3a3.5 3.5 0 0 1-7 0z" fill="#CFE3D3" />
      <path d="M3 22.6h24" stroke="#16241C" strokeWidth="1.8" strokeLinecap="round" />
    </svg>
  );
}

/** "Selling stands here": an awning of three scallops with the widget's sign on it. */
export function Awning({
  kind,
  style,
  flat = false,
}: {
  kind: string;
  style?: React.CSSProperties;
  flat?: boolean;
}) {
  return (
    <span className={flat ? 'aw flat' : 'aw'} style={style}>
      <svg width={flat ? 17 : 21} height={flat ? 17 : 21} viewBox="0 0 21 21" aria-hidden="true">
        <path d="M2 0h17a2 2 0 0 1 2 2V16.2a3.5 4.2 0 0 1-7 0a3.5 4.2 0 0 1-7 0a3.5 4.2 0 0 1-7 0V2A2 2 0 0 1 2 0z" />
        <g transform="translate(4 2) scale(1.08)" color="#FBFAF5">
          <Sign kind={kind} />
        </g>
      </svg>
    </span>
  );
}

const Sign = ({ kind }: { kind: string }) => (
  // biome-ignore lint/security/noDangerouslySetInnerHtml: drawings of our own, from the kinds' tables
  <g dangerouslySetInnerHTML={{ __html: artOf(kind).sign }} />
);

/** What a kind looks like; a kind that is gone or not made yet looks like a button. */
const artOf = (kind: string): Pick<WidgetKind, 'sign' | 'drawing'> => {
  const known = kindOf(kind);
  return known?.sign ? known : buyButton;
};

/** Marks, in place, what is on the slip. */
export const OnSlip = () => (
  <span className="chg" role="img" aria-label={say.onTheSlip} title={say.onTheSlip} />
);

/** A widget as the shelf shows it. */
export const ShelfDrawing = ({ kind }: { kind: string }) => (
  <svg width="52" height="38" viewBox="0 0 52 38" aria-hidden="true">
    {/* biome-ignore lint/security/noDangerouslySetInnerHtml: drawings of our own, from the kinds' tables */}
    <g dangerouslySetInnerHTML={{ __html: artOf(kind).drawing }} />
  </svg>
);
