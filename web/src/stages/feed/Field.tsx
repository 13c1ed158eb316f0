import { Input } from "antd";

interface FieldProps {
  label: string;
  value: string;
  put: (value: string) => void;
  placeholder?: string;
}

/** One typed field of a bench. */
export function Field({ label, value, put, placeholder }: FieldProps) {
  return (
    <label className="entry">
      <span className="entry-label">{label}</span>
      <Input value={value} placeholder={placeholder ?? ""} onChange={(event) => put(event.target.value)} />
    </label>
  );
}
