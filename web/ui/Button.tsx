import type { ComponentProps } from "react";

const LOOK = {
  go: "bg-petrol border-petrol text-on-petrol hover:bg-petrol-deep hover:border-petrol-deep",
  plain: "bg-panel border-hair hover:border-petrol",
  quiet: "border-transparent text-petrol hover:bg-petrol-soft",
};

/** A button that says what will happen. `go` is for the one main action of a view. */
export function Button({
  look = "plain",
  className = "",
  ...rest
}: ComponentProps<"button"> & { look?: keyof typeof LOOK }) {
  return (
    <button
      type="button"
      {...rest}
      className={`inline-flex min-h-[30px] items-center justify-center gap-1.5 whitespace-nowrap rounded-md border px-3 font-[560] disabled:cursor-not-allowed disabled:opacity-50 ${LOOK[look]} ${className}`}
    />
  );
}
