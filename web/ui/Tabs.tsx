/** A row of tabs; the value of the chosen one stands, by custom, in the address of the page. */
export function Tabs({
  label,
  value,
  tabs,
  onChange,
}: {
  label: string;
  value: string;
  tabs: readonly (readonly [string, string])[];
  onChange: (value: string) => void;
}) {
  return (
    <div
      role="tablist"
      aria-label={label}
      className="mb-3.5 flex flex-wrap gap-x-[18px] border-b border-hair"
    >
      {tabs.map(([id, name]) => (
        <button
          key={id}
          type="button"
          role="tab"
          aria-selected={value === id}
          onClick={() => onChange(id)}
          className={`-mb-px border-b-2 whitespace-nowrap pt-1 pb-[7px] ${value === id ? "border-petrol font-[640] text-petrol" : "border-transparent forced-colors:border-b-0 forced-colors:pb-[9px] text-ink-2 hover:text-ink"}`}
        >
          {name}
        </button>
      ))}
    </div>
  );
}
