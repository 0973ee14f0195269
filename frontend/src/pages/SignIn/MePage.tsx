import { useMutation, useQuery } from "@tanstack/react-query";
import styled from "styled-components";
import { answer, api, keepToken, once, type Schemas } from "../../api/client";
import { addPasskey, canUsePasskeys } from "../../api/passkeys";
import { queryClient, sessionQuery, useSession } from "../../api/queries";
import { AskForm, useTyped } from "../../components/AskForm";
import { Button } from "../../components/Button";
import { ProblemNotice } from "../../components/Notice";
import { Page, Sheet, TwoColumns, Waiting } from "../../components/Page";
import { Table } from "../../components/Table";
import { dayAndTime } from "../../words";
import { PasswordField } from "./PasswordField";

type Me = Schemas["MeOut"];
type Event = Me["record"][number];
const ME = ["me"];
const UNKNOWN_DEVICE = "a device that does not say what it is";
const WHAT: Record<Event["what"], string> = {
  "sign-in": "came in",
  "sign-in-refused": "refused",
  "sign-in-ended": "ended",
  "sign-in-password-set": "new password",
  "sign-in-passkey-added": "passkey added",
  "sign-in-passkey-removed": "passkey taken away",
};
const HOW: Record<string, string> = { password: "by password", passkey: "by passkey", link: "by a one-time link" };

/** Where one is signed in, what opens the door, and who came through it. */
export default function MePage() {
  const me = useQuery({ queryKey: ME, queryFn: () => answer(() => api.GET("/api/me")) });
  const person = useSession().data?.person;
  return (
    <Page
      title={person?.name ?? "You"}
      lead="Where you are signed in, and what lets you in. On a tablet that others use, sign out when you leave the bench."
    >
      {!me.data ? (
        <Waiting query={me} what="your sign-ins" />
      ) : (
        <>
          <TwoColumns>
            <Column>
              <Devices me={me.data} />
              <NewPassword />
            </Column>
            <Keys me={me.data} />
          </TwoColumns>
          <Record>
            <h2>{person?.role === "coordinator" ? "Who came in, and who was refused" : "When you came in"}</h2>
            <Events
              label="Sign-ins"
              keyOf={(event) => `${event.at} ${event.what} ${event.address}`}
              rows={me.data.record}
              columns={[
                { head: "When", cell: (event) => dayAndTime(event.at) },
                { head: "Who", cell: (event) => event.by ?? "nobody" },
                { head: "What", cell: (event) => [WHAT[event.what], HOW[event.how]].filter(Boolean).join(" ") },
                { head: "Device", cell: (event) => event.device },
                { head: "From", cell: (event) => event.address },
              ]}
            />
          </Record>
        </>
      )}
    </Page>
  );
}

const show = (me: Me) => queryClient.setQueryData(ME, me);

function Devices({ me }: { me: Me }) {
  const end = useMutation({
    mutationFn: (id: number) =>
      answer(() => api.DELETE("/api/me/sign-ins/{id}", { params: { path: { id } }, headers: once() })),
    onSuccess: show,
  });
  return (
    <Sheet>
      <h2>Signed in</h2>
      <Lines>
        {me.sign_ins.map((each) => (
          <li key={each.id}>
            <div>
              <strong>{each.is_this ? "Here" : each.device || UNKNOWN_DEVICE}</strong>
              <Small>
                {each.is_this && `${each.device || UNKNOWN_DEVICE}, `}since {dayAndTime(each.begun_at)}, until{" "}
                {dayAndTime(each.ends_at)} at the latest
              </Small>
            </div>
            {!each.is_this && (
              <Button kind="plain" onPress={() => end.mutate(each.id)} isDisabled={end.isPending}>
                End
              </Button>
            )}
          </li>
        ))}
      </Lines>
      <ProblemNotice problem={end.error} />
    </Sheet>
  );
}

function Keys({ me }: { me: Me }) {
  const typed = useTyped({ password: "" });
  const add = useMutation({
    mutationFn: () => addPasskey(typed.values.password),
    onSuccess: (now: Me) => {
      show(now);
      typed.clear();
    },
  });
  const remove = useMutation({
    mutationFn: (id: number) =>
      answer(() => api.DELETE("/api/me/passkeys/{id}", { params: { path: { id } }, headers: once() })),
    onSuccess: show,
  });
  return (
    <Sheet>
      <h2>Passkeys</h2>
      <p>
        A passkey lies in your phone or computer and opens with your finger, face or PIN: nothing to type or forget.
      </p>
      <Lines>
        {me.passkeys.map((each) => (
          <li key={each.id}>
            <div>
              <strong>{each.device || UNKNOWN_DEVICE}</strong>
              <Small>
                for {each.host}, {each.used_at ? `last used ${dayAndTime(each.used_at)}` : "never used yet"}
              </Small>
            </div>
            <Button kind="plain" onPress={() => remove.mutate(each.id)} isDisabled={remove.isPending}>
              Take away
            </Button>
          </li>
        ))}
      </Lines>
      <ProblemNotice problem={remove.error} />
      {canUsePasskeys() ? (
        <Ask
          problem={add.error}
          send="Add a passkey of this device"
          isSending={add.isPending}
          onSend={() => add.mutate()}
          isDisabled={!typed.values.password}
          kind="plain"
        >
          <Whose />
          <PasswordField label="Your password, once more" typed={typed.field("password")} />
        </Ask>
      ) : (
        <p>
          They need an address with a name and https, or this computer as localhost; this one is {window.location.host}.
        </p>
      )}
    </Sheet>
  );
}

function NewPassword() {
  const typed = useTyped({ old: "", new: "" });
  const change = useMutation({
    mutationFn: () => answer(() => api.PUT("/api/me/password", { body: typed.values })),
    onSuccess: (session) => {
      queryClient.setQueryData(sessionQuery.queryKey, keepToken(session));
      void queryClient.invalidateQueries({ queryKey: ME });
      typed.clear();
    },
  });
  return (
    <Sheet>
      <h2>New password</h2>
      <Ask
        problem={change.error}
        send="Change it"
        isSending={change.isPending}
        onSend={() => change.mutate()}
        isDisabled={!typed.values.old || !typed.values.new}
        kind="plain"
      >
        <Whose />
        <PasswordField label="The one you have" typed={typed.field("old")} />
        <PasswordField label="The new one" typed={typed.field("new")} isNew />
      </Ask>
      {change.isSuccess && <p role="status">Changed. Everywhere else you are signed out.</p>}
    </Sheet>
  );
}

/** Tells whatever keeps passwords whose this one is. */
function Whose() {
  const name = useSession().data?.person?.name ?? "";
  return <input type="text" autoComplete="username" value={name} readOnly hidden />;
}

const Lines = styled.ul`
  display: grid;
  gap: var(--near);
  margin: 0 0 var(--block);
  padding: 0;
  list-style: none;
  > li { display: flex; flex-wrap: wrap; gap: var(--near) var(--block); align-items: center; justify-content: space-between; }
`;
const Column = styled.div`display: grid; gap: var(--block); align-content: start;`;
const Record = styled(Sheet)`margin-top: var(--block);`;
const Events = styled(Table<Event>)`
  width: 100%;
  border-collapse: collapse;
  th { padding: var(--hair) var(--step) var(--hair) 0; text-align: left; }
  td:first-child { white-space: nowrap; }
  td { padding: var(--hair) var(--step) var(--hair) 0; border-top: 1px solid ${({ theme }) => theme.color.matLine}; }
`;
const Small = styled.small`display: block;`;
const Ask = styled(AskForm)`display: grid; gap: var(--block); justify-items: start;`;
