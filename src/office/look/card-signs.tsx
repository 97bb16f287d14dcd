import type { ReactNode } from 'react';

/** Small drawings of the looks of cards: a picture, a name, a price. */
const drawings: Readonly<Record<string, ReactNode>> = {
  plain: (
    <>
      <path className="pic" d="M4 4h44v30H4z" />
      <path className="ln" d="M4 42h26M4 51h14" />
    </>
  ),
  tray: (
    <>
      <path className="box" d="M4.5 4.5h43v52h-43z" />
      <path className="pic" d="M5 5h42v28H5z" />
      <path className="ln" d="M10 41h22M10 50h13" />
    </>
  ),
  ticket: (
    <>
      <path className="box dash" d="M4.5 4.5h43v52h-43z" />
      <path className="pic" d="M6 6h40v25H6z" />
      <path className="ln" d="M10 38h20" />
      <path className="thin dash" d="M6 44.5h40" />
      <path className="ln" d="M10 51h13" />
    </>
  ),
  shelf: (
    <>
      <path className="pic" d="M14 10h24v22H14z" />
      <path className="ln" d="M4 34h44" />
      <path className="ln" d="M15 43h22M20 52h12" />
    </>
  ),
  caption: (
    <>
      <path className="pic" d="M4 4h44v30H4z" />
      <path className="dark" d="M4 34h44v22H4z" />
      <path className="inv" d="M9 42h22M9 50h13" />
    </>
  ),
};

export const CardSign = ({ look }: { look: string }) => (
  <svg className="cardsign" viewBox="0 0 52 60" aria-hidden="true">
    {drawings[look]}
  </svg>
);
