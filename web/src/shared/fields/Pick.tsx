import { Select } from "antd";
import { letGo } from "../lib/useKey";

interface PickProps<T extends string> {
  label: string;
  value: T;
  options: readonly (readonly [T, string])[];
  put: (value: T) => void;
}

/** One of a few, by its name. */
export function Pick<T extends string>({ label, value, options, put }: PickProps<T>) {
  return (
    <label className="entry">
      <span className="entry-label">{label}</span>
      <Select<T>
        aria-label={label}
        value={value}
        options={options.map(([one, shown]) => ({ value: one, label: shown }))}
        onChange={(chosen) => {
          letGo();
          put(chosen);
        }}
      />
    </label>
  );
}
