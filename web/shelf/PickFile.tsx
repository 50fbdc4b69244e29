import { useRef } from "react";
import { Button } from "../ui/Button";

/** A button that lets somebody choose one file. */
export function PickFile({
  label,
  disabled,
  className = "",
  onPick,
}: {
  label: string;
  disabled: boolean;
  className?: string;
  onPick: (file: File) => void;
}) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button disabled={disabled} className={className} onClick={() => input.current?.click()}>
        {label}
      </Button>
      <input
        ref={input}
        type="file"
        className="hidden"
        aria-hidden="true"
        tabIndex={-1}
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file !== undefined) onPick(file);
          event.target.value = "";
        }}
      />
    </>
  );
}
