import { readableAddress } from "@amigo/core/address/domainName";
import { Fragment } from "react";

/** A mail address, which breaks, where it must, before its @ and its dots. */
export function Address({ children, className = "" }: { children: string; className?: string }) {
  return (
    <span className={`mono wrap-anywhere ${className}`}>
      {readableAddress(children)
        .split(/(?=[@.])/)
        .map((part, index) => (
          <Fragment key={index}>
            {index > 0 && <wbr />}
            {part}
          </Fragment>
        ))}
    </span>
  );
}
