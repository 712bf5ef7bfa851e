import { Component, type ReactNode } from "react";

type BoundaryProps = {
  /** What it is around, in words. */
  of: string;
  /** Another page is another try. */
  at: string;
  children: ReactNode;
};

type BoundaryState = { failed: boolean; at: string };

/** What cannot be drawn says so in its own place, and takes nothing else with it. */
export class Boundary extends Component<BoundaryProps, BoundaryState> {
  override state: BoundaryState = { failed: false, at: this.props.at };

  static getDerivedStateFromError(): Partial<BoundaryState> {
    return { failed: true };
  }

  static getDerivedStateFromProps({ at }: BoundaryProps, state: BoundaryState): BoundaryState {
    return at === state.at ? state : { failed: false, at };
  }

  override render() {
    if (!this.state.failed) return this.props.children;
    return (
      <section
        role="alert"
        data-boundary={this.props.of}
        className="m-6 max-w-[560px] border-l-4 border-ink bg-steel-2 p-4"
      >
        <h2 className="text-lead font-bold">{this.props.of} cannot be drawn</h2>
        <p className="mt-1 text-ink-2">
          Something in it is not as it should be. Nothing is lost: the record is as it was.
        </p>
        <button type="button" className="btn mt-3" onClick={() => this.setState({ failed: false })}>
          Try again
        </button>
      </section>
    );
  }
}
