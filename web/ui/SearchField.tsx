import { useEffect, useEffectEvent, useState } from "react";

/** What is typed takes effect after this many milliseconds of rest. */
const SETTLES_AFTER = 150;

/** A field that narrows what a page shows. It holds what is typed by itself, so that no letter is lost on its way to the page's address. */
export function SearchField({
  label,
  placeholder,
  value,
  onChange,
  className = "w-60 max-w-full",
}: {
  label: string;
  placeholder: string;
  value: string;
  onChange: (value: string) => void;
  className?: string;
}) {
  const [typed, setTyped] = useState(value);
  const [last, setLast] = useState(value);
  // Somebody else has changed it: "show everything", or the way back.
  if (value !== last) {
    setLast(value);
    setTyped(value);
  }
  const settle = useEffectEvent(() => {
    if (typed !== value) {
      setLast(typed);
      onChange(typed);
    }
  });
  useEffect(() => {
    const timer = setTimeout(settle, SETTLES_AFTER);
    return () => clearTimeout(timer);
  }, [typed]);
  return (
    <input
      type="search"
      aria-label={label}
      placeholder={placeholder}
      value={typed}
      onChange={(event) => setTyped(event.target.value)}
      onPaste={(event) => {
        // A field has one line: what is pasted from several keeps its parts apart.
        const pasted = event.clipboardData.getData("text/plain").trim();
        if (!/[\r\n\t]/.test(pasted)) return;
        event.preventDefault();
        setTyped(
          [typed.trim(), pasted.replace(/\s*[\r\n\t]+\s*/g, ", ")].filter(Boolean).join(" "),
        );
      }}
      className={`h-[30px] rounded-md border border-hair bg-panel px-2.5 ${className}`}
    />
  );
}
