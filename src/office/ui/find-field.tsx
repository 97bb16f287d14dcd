import { Search } from 'lucide-react';

/** A field by which a list is narrowed while one types. */
export const FindField = ({
  label,
  placeholder,
  value,
  onFind,
}: {
  label: string;
  placeholder: string;
  value: string;
  onFind: (text: string) => void;
}) => (
  <label className="in gfind">
    <Search size={12} aria-hidden />
    <input
      type="search"
      aria-label={label}
      placeholder={placeholder}
      value={value}
      onChange={(e) => onFind(e.target.value)}
    />
  </label>
);
