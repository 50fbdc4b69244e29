import { useId } from "react";

export function TextArea({
  label,
  value,
  onChange,
}: {
  label: string;
  value: string;
  onChange: (value: string) => void;
}) {
  const id = useId();
  return (
    <div>
      <label htmlFor={id} className="mb-1 block text-[13px] font-[560]">
        {label}
      </label>
      <textarea
        id={id}
        value={value}
        rows={3}
        maxLength={2000}
        onChange={(event) => onChange(event.target.value)}
        className="w-full rounded-md border border-hair bg-panel px-2.5 py-1.5 hover:border-ink-3"
      />
    </div>
  );
}
