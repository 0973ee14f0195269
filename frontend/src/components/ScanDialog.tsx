import { useEffect, useRef, useState } from "react";
import { Dialog, Heading, Modal, ModalOverlay } from "react-aria-components";
import styled from "styled-components";
import { Button } from "./Button";
import { FileButton } from "./FileButton";

const LOOK_EVERY_MS = 200;
type Reader = { detect: (source: ImageBitmapSource) => Promise<{ rawValue: string }[]> };

/** The code reader: a megabyte that is only fetched when somebody scans, from this server. */
async function makeReader(): Promise<Reader> {
  const [{ BarcodeDetector, prepareZXingModule }, { default: wasm }] = await Promise.all([
    import("barcode-detector/ponyfill"),
    import("zxing-wasm/reader/zxing_reader.wasm?url"),
  ]);
  prepareZXingModule({ overrides: { locateFile: () => wasm } });
  return new BarcodeDetector({ formats: ["qr_code"] });
}

/** Reads a label by the camera, or from a photo where the browser gives a page no camera. */
export default function ScanDialog({ onFound, onClose }: { onFound: (text: string) => void; onClose: () => void }) {
  const video = useRef<HTMLVideoElement>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const found = useRef(onFound);
  found.current = onFound;

  useEffect(() => {
    let over = false;
    let stream: MediaStream | null = null;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const look = async (reader: Reader) => {
      if (over) return;
      const picture = video.current;
      if (picture && picture.readyState >= HTMLMediaElement.HAVE_CURRENT_DATA) {
        const [code] = await reader.detect(picture);
        if (code && !over) {
          over = true;
          found.current(code.rawValue);
          return;
        }
      }
      timer = setTimeout(() => void look(reader), LOOK_EVERY_MS);
    };
    const start = async () => {
      if (!navigator.mediaDevices?.getUserMedia) {
        setTrouble(
          "Browsers lend the camera only to pages by https or on the same computer. A photo of the label works.",
        );
        return;
      }
      stream = await navigator.mediaDevices.getUserMedia({ video: { facingMode: "environment" } });
      if (over || !video.current) return;
      video.current.srcObject = stream;
      await video.current.play();
      await look(await makeReader());
    };
    start().catch(
      () => !over && setTrouble("The camera could not be used. Allow it in the browser, or take a photo of the label."),
    );
    return () => {
      over = true;
      clearTimeout(timer);
      for (const track of stream?.getTracks() ?? []) track.stop();
    };
  }, []);

  const readPhoto = async (file: File) => {
    try {
      const [code] = await (await makeReader()).detect(await createImageBitmap(file));
      if (code) found.current(code.rawValue);
      else setTrouble("No code in this picture. Go nearer, so that the label fills it.");
    } catch {
      setTrouble("This picture cannot be read. Take another one.");
    }
  };

  return (
    <Overlay isOpen isDismissable onOpenChange={(isOpen) => !isOpen && onClose()}>
      <Modal>
        <Dialog>
          <Body>
            <Heading slot="title">Hold a label before the camera</Heading>
            {trouble ? <p role="alert">{trouble}</p> : <Picture ref={video} muted playsInline aria-label="Camera" />}
            <Row>
              <FileButton accept="image/*" capture="environment" onFile={(file) => void readPhoto(file)}>
                Take a photo instead
              </FileButton>
              <Button onPress={onClose}>Close</Button>
            </Row>
          </Body>
        </Dialog>
      </Modal>
    </Overlay>
  );
}

const Overlay = styled(ModalOverlay)`
  position: fixed;
  inset: 0;
  z-index: 9;
  display: grid;
  place-items: center;
  padding: var(--apart);
  background: rgb(0 0 0 / 0.6);
`;
const Body = styled.div`
  display: grid;
  gap: var(--step);
  width: min(34rem, 94vw);
  padding: var(--block);
  border: ${({ theme }) => theme.line.ink} solid ${({ theme }) => theme.color.ink};
  background: ${({ theme }) => theme.color.paper};
  h2 { font-size: ${({ theme }) => theme.size.lead}; font-weight: 750; }
`;
const Picture = styled.video`width: 100%; aspect-ratio: 4 / 3; background: #000; object-fit: cover;`;
const Row = styled.div`display: flex; flex-wrap: wrap; gap: var(--gap); justify-content: space-between;`;
