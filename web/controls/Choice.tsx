/** A labelled choice from a short list. */
export function Choice({
  label,
  value,
  onChange,
  options,
  more,
  width,
}: {
  label: string;
  value: string;
  onChange: (v: string) => void;
  options: readonly (readonly [string, string])[];
  /** What is said at the end of a list that does not hold all. */
  more?: string | undefined;
  width?: string;
}) {
  return (
    <label className="block">
      <span className="label block">{label}</span>
      <select
        className={`field mt-0.5 ${width ?? ""}`}
        value={value}
        onChange={(event) => onChange(event.target.value)}
      >
        {options.map(([v, name]) => (
          <option key={v} value={v}>
            {name}
          </option>
        ))}
        {more && <option disabled>{more}</option>}
      </select>
    </label>
  );
}
