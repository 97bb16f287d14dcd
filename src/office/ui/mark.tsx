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
export function Awning({ kind, style, flat = false }: { kind: string; style?: React.CSSProperties; flat?: boolean }) {
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

function Sign({ kind }: { kind: string }) {
  if (kind === 'cart') {
    return (
      <>
        <path d="M1.5 5.5h9L9.4 10.4H2.6z" fill="currentColor" />
        <path d="M3.2 5.5c0-4.6 5.6-4.6 5.6 0" fill="none" stroke="currentColor" strokeWidth="1.3" />
      </>
    );
  }
  return (
    <>
      <rect x=".8" y="3" width="10.4" height="5.4" rx="2.7" fill="none" stroke="currentColor" strokeWidth="1.3" />
      <circle cx="6" cy="5.7" r="1.3" fill="currentColor" />
    </>
  );
}

/** Marks, in place, what is on the slip. */
export const OnSlip = () => <span className="chg" role="img" aria-label="On the slip" title="On the slip" />;

/** A widget as the shelf shows it. */
export function ShelfDrawing({ kind }: { kind: string }) {
  return (
    <svg width="52" height="38" viewBox="0 0 52 38" aria-hidden="true">
      {kind === 'cart' ? (
        <>
          <path d="M13 17h26l-3.5 15h-19z" className="f" />
          <path d="M18 17c0-15 16-15 16 0" className="s" />
          <path d="M16 22h20M17 27h18M22 17v15M30 17v15" className="w1" />
        </>
      ) : (
        <>
          <rect x="7" y="12" width="38" height="14" rx="7" className="f" />
          <path d="M14 19h15" className="w" />
          <circle cx="37" cy="19" r="2.6" className="wf" />
        </>
      )}
    </svg>
  );
}
