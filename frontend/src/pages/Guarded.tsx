import { ErrorBoundary, type FallbackProps } from "react-error-boundary";
import { Outlet, useLocation } from "react-router";
import { Button } from "../components/Button";
import { Actions, Page, Quiet } from "../components/Page";
import { fetchAgain, NotFetched } from "./byAddress";

/** A page that cannot be fetched or breaks says so in its own place: the bar around it stays, and every other page opens. */
export function Guarded({ children = <Outlet /> }: { children?: React.ReactNode }) {
  const { key } = useLocation();
  return (
    <ErrorBoundary FallbackComponent={Broken} resetKeys={[key]} onReset={fetchAgain}>
      {children}
    </ErrorBoundary>
  );
}

export function Broken({ error, resetErrorBoundary }: FallbackProps) {
  const isAway = error instanceof NotFetched;
  return (
    <Page title={isAway ? "This page could not be fetched" : "This page broke"}>
      <Quiet role="alert">
        {isAway ? (
          <p>The server cannot be reached, or has a newer version of this page. What you entered is kept.</p>
        ) : (
          <>
            <p>What you entered is kept. If it breaks again, tell a coordinator what you did and this:</p>
            <p>
              <code>{error instanceof Error ? error.message : String(error)}</code>
            </p>
          </>
        )}
        <Actions>
          <Button kind="main" onPress={resetErrorBoundary}>
            Try again
          </Button>
          <Button onPress={() => location.reload()}>Load everything anew</Button>
        </Actions>
      </Quiet>
    </Page>
  );
}
