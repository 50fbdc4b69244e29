/** A choice of a few by the browser's own means: on a phone it opens as people know it there, and needs no library. */
export function Select<Value extends string>({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: Value;
  options: readonly { value: Value; name: string }[];
  onChange: (value: Value) => void;
}) {
  return (
    <select
      aria-label={label}
      value={value}
      onChange={(event) => {
        const chosen = options.find((option) => option.value === event.target.value);
        if (chosen !== undefined) onChange(chosen.value);
      }}
      className="min-h-[44px] max-w-full rounded-md border border-hair bg-panel px-3 font-[560] hover:border-petrol"
    >
      {options.map((option) => (
        <option key={option.value} value={option.value}>
          {option.name}
        </option>
      ))}
    </select>
  );
}
