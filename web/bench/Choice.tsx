/** A labelled choice from a short list. */
export function Choice({
  label,
  value,
  onChange,
  options,
  width,
}: {
  label: string;
  value: string;
  onChange: (v: string) => void;
  options: readonly (readonly [string, string])[];
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
      </select>
    </label>
  );
}
