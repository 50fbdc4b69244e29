import { Component, type ReactNode } from "react";
import { Rich } from "../texts/app";

/** Stands in for a page that failed, so that nobody looks at an empty screen; the rest of Amigo goes on. */
export class Boundary extends Component<
  { place: string; children: ReactNode },
  { failed: boolean }
> {
  override state = { failed: false };

  static getDerivedStateFromError(): { failed: boolean } {
    return { failed: true };
  }

  override componentDidUpdate(before: { place: string }): void {
    if (this.state.failed && before.place !== this.props.place) this.setState({ failed: false });
  }

  override render(): ReactNode {
    if (!this.state.failed) return this.props.children;
    return (
      <p role="alert" className="rounded-md border border-brick bg-brick-soft px-3 py-2">
        <Rich id="app.thisPageCouldNotBe" b={<b className="text-brick">! </b>} />
      </p>
    );
  }
}
