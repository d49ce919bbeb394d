import { Component, type ReactNode } from "react";
import { Button } from "./button.tsx";
import { EmptyPage } from "./page.tsx";

export const LoadAgain = () => (
  <Button look="main" onPress={() => window.location.reload()}>
    Load it again
  </Button>
);

/** What stands in the place of a page that could not be drawn. */
export function Crashed() {
  return (
    <EmptyPage title="This page can't be shown" action={<LoadAgain />}>
      Something went wrong while drawing it. Nothing that was saved is lost. If it happens again, choose
      another page from the menu.
    </EmptyPage>
  );
}

/** Shows a page that says so where what is inside could not be drawn, instead of nothing at all. */
export class CrashGuard extends Component<{ children: ReactNode }, { crashed: boolean }> {
  override state = { crashed: false };

  static getDerivedStateFromError() {
    return { crashed: true };
  }

  override render() {
    return this.state.crashed ? <Crashed /> : this.props.children;
  }
}
