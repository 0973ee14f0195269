import { useState } from "react";
import styled from "styled-components";
import { type Log, sendLog } from "../api/measuring";
import { useWrite } from "../api/writing";
import { Button } from "./Button";
import { LinesField } from "./Fields";
import { FileButton } from "./FileButton";
import { InstrumentPick } from "./InstrumentPick";
import { ProblemNotice } from "./Notice";

/** A place to drop a tester's log, choose one, or paste what a serial monitor printed. */
export function LogDrop({ cell, onTaken }: { cell: string | null; onTaken: (log: Log) => void }) {
  const [instrument, setInstrument] = useState<string | null>(null);
  const [pasted, setPasted] = useState("");
  const [isOver, setOver] = useState(false);
  const send = useWrite(
    ({ file, name }: { file: Blob; name: string }) => sendLog(file, name, cell, instrument),
    (log) => {
      setPasted("");
      onTaken(log);
    },
  );
  const take = (file: File) => send.mutate({ file, name: file.name });
  return (
    <Box>
      <Zone
        data-over={isOver || undefined}
        onDragOver={(event) => {
          event.preventDefault();
          setOver(true);
        }}
        onDragLeave={() => setOver(false)}
        onDrop={(event) => {
          event.preventDefault();
          setOver(false);
          const file = event.dataTransfer.files[0];
          if (file) take(file);
        }}
      >
        <strong>{send.isPending ? "It is on its way …" : "Drop a tester's log here"}</strong>
        <FileButton accept=".csv,.txt,.tsv,.log,.xlsx,.parquet,text/*" onFile={take}>
          Choose a file
        </FileButton>
        <span>Any columns, any language, comma or point. The file is kept as it is.</span>
      </Zone>
      <InstrumentPick isQuiet value={instrument} onChange={setInstrument} />
      <ProblemNotice problem={send.error} />
      <LinesField
        label="Or paste lines from a serial monitor"
        value={pasted}
        onChange={setPasted}
        hint="Columns without names are told by their numbers, and asked about."
      />
      {pasted.trim() !== "" && (
        <Button onPress={() => send.mutate({ file: new Blob([pasted]), name: "pasted" })} isDisabled={send.isPending}>
          Read what was pasted
        </Button>
      )}
    </Box>
  );
}

const Box = styled.div`display: grid; gap: var(--step); justify-items: start; > * { max-width: 100%; } > :not(button) { width: 100%; }`;
const Zone = styled.div`
  display: grid;
  gap: var(--gap);
  justify-items: center;
  width: 100%;
  padding: var(--room) var(--block);
  border: 3px dashed ${({ theme }) => theme.color.inkSoft};
  text-align: center;
  &[data-over] { border-color: ${({ theme }) => theme.color.ink}; background: ${({ theme }) => theme.color.askPaper}; }
  strong { font-size: ${({ theme }) => theme.size.lead}; }
  span { font-size: ${({ theme }) => theme.size.note}; color: ${({ theme }) => theme.color.inkSoft}; }
`;
