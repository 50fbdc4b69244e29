import { useId, type ComponentProps } from "react";

/** A labelled field, with a line of help below it. */
export function Field({
  label,
  help,
  className = "",
  ...rest
}: ComponentProps<"input"> & { label: string; help?: string }) {
  const id = useId();
  return (
    <div className={className}>
      <label htmlFor={id} className="mb-1 block text-[13px] font-[560]">
        {label}
      </label>
      <input
        id={id}
        aria-describedby={help === undefined ? undefined : `${id}-help`}
        {...rest}
        className="h-[34px] w-full rounded-md border border-hair bg-panel px-2.5 hover:border-ink-3 disabled:border-hair-soft disabled:bg-sunk disabled:text-ink-3"
      />
      {help !== undefined && (
        <p id={`${id}-help`} className="mt-1 text-[13px] text-ink-3">
          {help}
        </p>
      )}
    </div>
  );
}
