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

const signs: Readonly<Record<string, React.ReactNode>> = {
  cart: (
    <>
      <path d="M1.5 5.5h9L9.4 10.4H2.6z" fill="currentColor" />
      <path d="M3.2 5.5c0-4.6 5.6-4.6 5.6 0" fill="none" stroke="currentColor" strokeWidth="1.3" />
    </>
  ),
  buy: (
    <>
      <rect
        x=".8"
        y="3"
        width="10.4"
        height="5.4"
        rx="2.7"
        fill="none"
        stroke="currentColor"
        strokeWidth="1.3"
      />
      <circle cx="6" cy="5.7" r="1.3" fill="currentColor" />
    </>
  ),
  card: (
    <>
      <rect
        x="2.2"
        y="1"
        width="7.6"
        height="9.6"
        rx="1"
        fill="none"
        stroke="currentColor"
        strokeWidth="1.3"
      />
      <rect x="3.8" y="2.6" width="4.4" height="3.6" fill="currentColor" />
    </>
  ),
  row: (
    <>
      <rect x=".6" y="3" width="3" height="5.6" fill="currentColor" />
      <rect x="4.5" y="3" width="3" height="5.6" fill="currentColor" />
      <rect x="8.4" y="3" width="3" height="5.6" fill="currentColor" />
    </>
  ),
  shop: (
    <>
      <path d="M1 5h10v5.4H1z" fill="none" stroke="currentColor" strokeWidth="1.3" />
      <path d="M.6 1.4h10.8v2.4H.6z" fill="currentColor" />
    </>
  ),
  categories: (
    <path d="M1 2.4h2M1 5.8h2M1 9.2h2M5 2.4h6M5 5.8h6M5 9.2h6" stroke="currentColor" strokeWidth="1.4" />
  ),
  search: (
    <>
      <circle cx="5" cy="4.8" r="3.2" fill="none" stroke="currentColor" strokeWidth="1.4" />
      <path d="M7.4 7.2 10.6 10.4" stroke="currentColor" strokeWidth="1.6" />
    </>
  ),
  lookup: (
    <>
      <path
        d="M2.4.8h7.2v10l-1.8-1.2L6 10.8 4.2 9.6 2.4 10.8z"
        fill="none"
        stroke="currentColor"
        strokeWidth="1.2"
      />
      <path d="M4 4.6l1.5 1.5L8.2 3.4" fill="none" stroke="currentColor" strokeWidth="1.3" />
    </>
  ),
  account: (
    <>
      <circle cx="6" cy="3.4" r="2.3" fill="currentColor" />
      <path d="M1.4 10.8c0-5.4 9.2-5.4 9.2 0z" fill="none" stroke="currentColor" strokeWidth="1.3" />
    </>
  ),
  reviews: (
    <path
      d="M6 .8 7.6 4.2l3.7.4-2.8 2.5.8 3.7L6 8.9l-3.3 1.9.8-3.7L.7 4.6l3.7-.4z"
      fill="none"
      stroke="currentColor"
      strokeWidth="1.2"
      strokeLinejoin="round"
    />
  ),
  releases: (
    <>
      <path d="M6 .8v6M3.4 4.4 6 7l2.6-2.6" fill="none" stroke="currentColor" strokeWidth="1.4" />
      <path d="M1.2 8.4v2.2h9.6V8.4" fill="none" stroke="currentColor" strokeWidth="1.3" />
    </>
  ),
  notice: (
    <>
      <path d="M1 2h10v6.4H6.6L4 10.8V8.4H1z" fill="none" stroke="currentColor" strokeWidth="1.3" />
      <path d="M3.4 4.2h5.2M3.4 6.2h3.4" stroke="currentColor" strokeWidth="1.2" />
    </>
  ),
};

const Sign = ({ kind }: { kind: string }) => signs[kind] ?? signs.buy;

/** Marks, in place, what is on the slip. */
export const OnSlip = () => (
  <span className="chg" role="img" aria-label={say.onTheSlip} title={say.onTheSlip} />
);

const drawings: Readonly<Record<string, React.ReactNode>> = {
  cart: (
    <>
      <path d="M13 17h26l-3.5 15h-19z" className="f" />
      <path d="M18 17c0-15 16-15 16 0" className="s" />
      <path d="M16 22h20M17 27h18M22 17v15M30 17v15" className="w1" />
    </>
  ),
  buy: (
    <>
      <rect x="7" y="12" width="38" height="14" rx="7" className="f" />
      <path d="M14 19h15" className="w" />
      <circle cx="37" cy="19" r="2.6" className="wf" />
    </>
  ),
  card: (
    <>
      <rect x="15" y="4" width="22" height="30" rx="2" className="s" />
      <rect x="18" y="7" width="16" height="13" className="f" />
      <path d="M18 25h11M18 29h7" className="s" />
    </>
  ),
  row: (
    <>
      <rect x="4" y="8" width="12" height="13" className="f" />
      <rect x="20" y="8" width="12" height="13" className="f" />
      <rect x="36" y="8" width="12" height="13" className="f" />
      <path d="M4 26h9M20 26h9M36 26h9" className="s" />
    </>
  ),
  shop: (
    <>
      <path d="M9 17v16h34V17" className="s" />
      <path d="M7 6h38l2 10H5z" className="f" />
      <path d="M17 6l-1 10M26 6v10M35 6l1 10" className="w1" />
      <path d="M21 33V22h10v11" className="s" />
    </>
  ),
  categories: (
    <>
      <path d="M12 9h4v4h-4zM12 18h4v4h-4zM12 27h4v4h-4z" className="f" />
      <path d="M21 11h20M21 20h15M21 29h18" className="s" />
    </>
  ),
  search: (
    <>
      <rect x="6" y="11" width="40" height="16" rx="2" className="s" />
      <circle cx="15" cy="18.5" r="3.6" className="s" />
      <path d="M17.8 21.2l3 3M26 19h14" className="s" />
    </>
  ),
  lookup: (
    <>
      <path d="M15 4h22v30l-3.7-2.6-3.6 2.6-3.7-2.6-3.7 2.6-3.6-2.6L15 34z" className="s" />
      <path d="M20 17l4.4 4.4L32 13" className="s" />
    </>
  ),
  account: (
    <>
      <circle cx="26" cy="12" r="6.5" className="f" />
      <path d="M11 34c0-15 30-15 30 0" className="s" />
    </>
  ),
  reviews: (
    <>
      <path
        d="M26 4l4.4 9.4 10.2 1.2-7.6 7 2.1 10.1L26 26.6l-9.1 5.1L19 21.6l-7.6-7 10.2-1.2z"
        className="s"
      />
      <path d="M26 4v22.6l-9.1 5.1L19 21.6l-7.6-7 10.2-1.2z" className="f" />
    </>
  ),
  releases: (
    <>
      <path d="M26 4v18M18 15l8 8 8-8" className="s" />
      <path d="M9 25v8h34v-8" className="s" />
      <path d="M14 33h24" className="s" />
    </>
  ),
  notice: (
    <>
      <path d="M9 6h34v20H27l-9 8v-8H9z" className="s" />
      <path d="M15 13h22M15 19h14" className="s" />
    </>
  ),
};

/** A widget as the shelf shows it. */
export const ShelfDrawing = ({ kind }: { kind: string }) => (
  <svg width="52" height="38" viewBox="0 0 52 38" aria-hidden="true">
    {drawings[kind] ?? drawings.buy}
  </svg>
);
