import { fireEvent, screen } from "@testing-library/react";
import { expect, test, vi } from "vitest";
import { Problem } from "../api/client";
import { button, press, show, type } from "../testing/page";
import { AskForm, useTyped } from "./AskForm";
import { Field } from "./Fields";

const NO_NAME = new Problem("bad-input", "A place has a name.", "name");

function Asks({ problem = null, onSend = () => {}, waitsFor = null as string | null, isSending = false }) {
  const typed = useTyped({ name: "", capacity: "40" });
  return (
    <AskForm
      problem={problem}
      send="Make it"
      isSending={isSending}
      waitsFor={waitsFor}
      onSend={() => (onSend as (values: unknown) => void)(typed.values)}
      besides={
        <button type="button" onClick={typed.clear}>
          Begin again
        </button>
      }
    >
      <Field label="Name" {...typed.field("name")} hint="As it stands on it." />
      <Field label="Takes" {...typed.field("capacity")} />
    </AskForm>
  );
}

test("what was typed is sent by the names the server has for it", () => {
  const onSend = vi.fn();
  show(<Asks onSend={onSend} />);
  type("Name", "Blue box");
  press("Make it");
  expect(onSend).toHaveBeenCalledWith({ name: "Blue box", capacity: "40" });
});

test("Enter in any field sends", () => {
  const onSend = vi.fn();
  show(<Asks onSend={onSend} />);
  fireEvent.submit(screen.getByLabelText("Takes").closest("form") as HTMLFormElement);
  expect(onSend).toHaveBeenCalledOnce();
});

test("what is refused stands once, at the field it names, in place of its hint", () => {
  show(<Asks problem={NO_NAME as never} />);
  const field = screen.getByLabelText("Name");
  expect(screen.getAllByText("A place has a name.")).toHaveLength(1);
  expect(document.getElementById(field.getAttribute("aria-describedby") ?? "")?.textContent).toBe(
    "A place has a name.",
  );
  expect(screen.queryByText("As it stands on it.")).toBeNull();
});

test("what is refused goes as soon as it is typed over, not when the field is left", () => {
  show(<Asks problem={NO_NAME as never} />);
  type("Name", "B");
  expect(screen.queryByText("A place has a name.")).toBeNull();
});

test.each([
  ["no field", new Problem("conflict", "Somebody was faster.")],
  ["a field that is not here", new Problem("bad-input", "Somebody was faster.", "rows")],
])("what is refused of %s stands above the button", (_, problem) => {
  show(<Asks problem={problem as never} />);
  expect(screen.getByRole("alert").textContent).toBe("Somebody was faster.");
});

test("nothing is sent twice while it is on its way, nor before all is said", () => {
  const onSend = vi.fn();
  const { unmount } = show(<Asks onSend={onSend} isSending />);
  fireEvent.submit(screen.getByLabelText("Name").closest("form") as HTMLFormElement);
  unmount();
  show(<Asks onSend={onSend} waitsFor="First say what it is called." />);
  fireEvent.submit(screen.getByLabelText("Name").closest("form") as HTMLFormElement);
  expect(screen.getByText("First say what it is called.")).toBeTruthy();
  expect(onSend).not.toHaveBeenCalled();
});

test("begun again, every field is as it was first", () => {
  show(<Asks />);
  type("Takes", "12");
  fireEvent.click(button("Begin again"));
  expect((screen.getByLabelText("Takes") as HTMLInputElement).value).toBe("40");
});
