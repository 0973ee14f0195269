import { screen, waitFor } from "@testing-library/react";
import { expect, test } from "vitest";
import { queryClient, sessionQuery } from "../../api/queries";
import { address, press, refusal, serve, show, type } from "../../testing/page";
import { SignInPage } from "./SignInPage";
import { WelcomePage } from "./WelcomePage";

const NOBODY = {
  person: null,
  csrf_token: "t",
  language: "en",
  is_language_chosen: false,
  languages: ["en"],
  print_language: "en",
};
const TAMSIN = { ...NOBODY, person: { name: "Tamsin", role: "volunteer" } };

test("name and password let somebody in", async () => {
  const sent = serve({ "POST /api/session": TAMSIN });
  show(<SignInPage />);
  type("Name", "Tamsin");
  type("Password", "sand and gloves");
  press("Sign in");
  await waitFor(() => expect(queryClient.getQueryData(sessionQuery.queryKey)?.person?.name).toBe("Tamsin"));
  expect(sent[0]?.body).toEqual({ name: "Tamsin", password: "sand and gloves" });
});

test("a wrong password is said at its field, and the name stays", async () => {
  serve({
    "POST /api/session": refusal({ code: "wrong-sign-in", text: "Name and password do not fit.", field: "password" }),
  });
  show(<SignInPage />);
  type("Name", "Tamsin");
  type("Password", "sand");
  press("Sign in");
  expect(await screen.findByText("Name and password do not fit.")).toBeTruthy();
  expect((screen.getByLabelText("Name") as HTMLInputElement).value).toBe("Tamsin");
});

const welcome = () => show(<WelcomePage />, "/welcome/abc", "/welcome/:token");

test("a one-time link offers the name it is for, and leads in", async () => {
  const sent = serve({
    "GET /api/session": NOBODY,
    "GET /api/invitations/abc": { name: "Oona" },
    "POST /api/invitations/abc": TAMSIN,
  });
  welcome();
  expect(((await screen.findByLabelText("Your name")) as HTMLInputElement).value).toBe("Oona");
  type("New password", "three or four words");
  press("Go in");
  await waitFor(() => expect(address()).toBe("/"));
  expect(sent[0]?.body).toEqual({ name: "Oona", password: "three or four words" });
});

test("another name can be typed over the one that is offered, even to nothing", async () => {
  const sent = serve({
    "GET /api/session": NOBODY,
    "GET /api/invitations/abc": { name: "Oona" },
    "POST /api/invitations/abc": refusal({ code: "bad-input", text: "A name has 1 to 40 characters.", field: "name" }),
  });
  welcome();
  await screen.findByLabelText("Your name");
  type("Your name", "");
  press("Go in");
  expect(await screen.findByText("A name has 1 to 40 characters.")).toBeTruthy();
  expect(sent[0]?.body).toMatchObject({ name: "" });
});

test("a link that was used says so", async () => {
  serve({
    "GET /api/session": NOBODY,
    "GET /api/invitations/abc": refusal({ code: "not-found", text: "This link is used up." }),
  });
  welcome();
  expect(await screen.findByText("This link is used up.")).toBeTruthy();
});
