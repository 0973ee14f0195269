import type { Cell } from "../../api/client";
import { uploadLog } from "../../api/client";
import { useWrite } from "../../api/writing";
import { FileButton } from "../../components/FileButton";
import { Notice, ProblemNotice } from "../../components/Notice";
import { Sheet } from "../../components/Page";
import { Tape } from "../../components/Tape";
import { GRADE_WORDS } from "../../words";

/** One cell with its whole story, out of a file that was taken along from its page, here or elsewhere. */
export function StoryIn() {
  const take = useWrite((file: File) => uploadLog<Cell>("/api/stories", file));
  return (
    <Sheet>
      <h2>Take in one cell with its story</h2>
      <p>A JSON file as a cell's page writes it. The cell gets a number of this house, and is judged by its rules.</p>
      <FileButton accept=".json,application/json" onFile={(file) => take.mutate(file)}>
        Choose a story
      </FileButton>
      <ProblemNotice problem={take.error} />
      {take.data && (
        <Notice kind="kept">
          It is <Tape to={`/cells/${take.data.number}`}>{take.data.number}</Tape> now. Judged:{" "}
          {GRADE_WORDS[take.data.grade]}.
        </Notice>
      )}
    </Sheet>
  );
}
