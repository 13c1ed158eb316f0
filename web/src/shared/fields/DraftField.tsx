import { Input } from "antd";

interface DraftFieldProps {
  label: string;
  value: string;
  put: (value: string) => void;
  placeholder?: string;
}

/** One typed field of a form that is sent as a whole. */
export function DraftField({ label, value, put, placeholder }: DraftFieldProps) {
  return (
    <label className="entry">
      <span className="entry-label">{label}</span>
      <Input value={value} placeholder={placeholder ?? ""} onChange={(event) => put(event.target.value)} />
    </label>
  );
}
