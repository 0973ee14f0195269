import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate, useParams } from "react-router";
import { answer, api, keepToken, loadSession } from "../../api/client";
import { queryClient, sessionQuery } from "../../api/queries";
import { useTyped } from "../../components/AskForm";
import { Field } from "../../components/Fields";
import { Waiting } from "../../components/Page";
import { Door } from "./Door";
import { PasswordField } from "./PasswordField";
import { Stack } from "./SignInPage";

/** A one-time link: choose name and password, and in. */
export function WelcomePage() {
  const { token = "" } = useParams();
  const navigate = useNavigate();
  const typed = useTyped({ name: "", password: "" });
  // As the coordinator wrote it, until it is typed over.
  const [isOwn, setOwn] = useState(false);
  const invitation = useQuery({
    queryKey: ["invitation", token],
    queryFn: async () => {
      await loadSession();
      return answer(() => api.GET("/api/invitations/{token}", { params: { path: { token } } }));
    },
  });
  const accept = useMutation({
    mutationFn: () =>
      answer(() =>
        api.POST("/api/invitations/{token}", {
          params: { path: { token } },
          body: { name: isOwn ? typed.values.name : (invitation.data?.name ?? ""), password: typed.values.password },
        }),
      ),
    onSuccess: (session) => {
      queryClient.setQueryData(sessionQuery.queryKey, keepToken(session));
      navigate("/");
    },
  });
  return (
    <Door title="Welcome">
      {invitation.data ? (
        <Stack problem={accept.error} send="Go in" isSending={accept.isPending} onSend={() => accept.mutate()}>
          <Field
            label="Your name"
            hint="As it stands beside your entries."
            name="name"
            value={isOwn ? typed.values.name : invitation.data.name}
            onChange={(name) => {
              setOwn(true);
              typed.set("name", name);
            }}
            autoComplete="username"
            maxLength={40}
          />
          <PasswordField label="New password" typed={typed.field("password")} isNew />
        </Stack>
      ) : (
        <Waiting query={invitation} what="the link" />
      )}
    </Door>
  );
}
