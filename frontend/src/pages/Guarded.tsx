import { useEffect } from "react";
import { ErrorBoundary, type FallbackProps } from "react-error-boundary";
import { Outlet, useLocation } from "react-router";
import { Button } from "../components/Button";
import { Actions, Page, Quiet } from "../components/Page";
import { fetchAgain, NotFetched } from "./byAddress";

const AGAIN_MS = 20_000;

/** A page that cannot be fetched or breaks says so in its own place: the bar around it stays, and every other page opens. One to look
 * at only, where perhaps nobody can press anything, tries again by itself. */
export function Guarded({ isToLookAt, children = <Outlet /> }: { isToLookAt?: boolean; children?: React.ReactNode }) {
  const { key } = useLocation();
  return (
    <ErrorBoundary FallbackComponent={isToLookAt ? BrokenUnattended : Broken} resetKeys={[key]} onReset={fetchAgain}>
      {children}
    </ErrorBoundary>
  );
}

export function Broken(props: FallbackProps) {
  return <Told {...props} kept="What you entered is kept." tell="tell a coordinator what you did and this:" />;
}

function BrokenUnattended(props: FallbackProps) {
  const again = props.resetErrorBoundary;
  useEffect(() => {
    const timer = setTimeout(again, AGAIN_MS);
    return () => clearTimeout(timer);
  }, [again]);
  return <Told {...props} kept="It is tried again every 20 seconds." tell="tell the repair cafe this:" />;
}

function Told({ error, resetErrorBoundary, kept, tell }: FallbackProps & { kept: string; tell: string }) {
  const isAway = error instanceof NotFetched;
  return (
    <Page title={isAway ? "This page could not be fetched" : "This page broke"}>
      <Quiet role="alert">
        {isAway ? (
          <p>The server cannot be reached, or has a newer version of this page. {kept}</p>
        ) : (
          <>
            <p>
              {kept} If it breaks again, {tell}
            </p>
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
