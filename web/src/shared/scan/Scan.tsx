import { Button } from "antd";
import { useEffect, useRef, useState } from "react";
import { FileButton } from "../fields/FileButton";
import { say } from "../../words/say";
import "./Scan.css";

const LOOK_EVERY_MS = 250;
type Standing = "closed" | "looking" | "no_camera" | "nothing_found" | "reading";

/** Reads a label with the camera, or from a picture that was taken already. */
export function Scan({ found }: { found: (text: string) => void }) {
  const [standing, setStanding] = useState<Standing>("closed");
  const fromPicture = async (file: File) => {
    setStanding("reading");
    const { labelIn } = await import("./read");
    const text = await labelIn(file).catch(() => null);
    setStanding(text === null ? "nothing_found" : "closed");
    if (text !== null) found(text);
  };
  return (
    <div className="scan">
      {standing === "looking" ? (
        <Camera
          found={(text) => {
            setStanding("closed");
            found(text);
          }}
          failed={() => setStanding("no_camera")}
          leave={() => setStanding("closed")}
        />
      ) : (
        <div className="scan-do">
          <Button onClick={() => setStanding("looking")}>{say("shared.scan_with_the_camera")}</Button>
          <FileButton
            label={say("common.picture_of_the_label")}
            accept="image/jpeg,image/png"
            busy={standing === "reading"}
            take={(file) => void fromPicture(file)}
          >
            {say("shared.read_a_picture")}
          </FileButton>
        </div>
      )}
      {standing === "no_camera" && <p role="alert">{say("shared.no_camera_can_be_used_here")}</p>}
      {standing === "nothing_found" && <p role="alert">{say("shared.no_code_was_found_in_this")}</p>}
    </div>
  );
}

interface CameraProps {
  found: (text: string) => void;
  failed: () => void;
  leave: () => void;
}

/** The camera's picture, looked through until a label is found. */
function Camera({ found, failed, leave }: CameraProps) {
  const video = useRef<HTMLVideoElement>(null);
  const latest = useRef({ found, failed });
  useEffect(() => {
    latest.current = { found, failed };
  });
  useEffect(() => {
    let stream: MediaStream | null = null;
    const left = new AbortController();
    const isLeft = () => left.signal.aborted;
    const look = async () => {
      const { labelIn } = await import("./read");
      // Undefined where the page is not served securely.
      const devices = navigator.mediaDevices as MediaDevices | undefined;
      if (devices === undefined) throw new Error("no camera");
      stream = await devices.getUserMedia({ video: { facingMode: "environment" } });
      while (!isLeft() && video.current !== null) {
        if (video.current.srcObject === null) {
          video.current.srcObject = stream;
          await video.current.play();
        }
        const text = await labelIn(frameOf(video.current)).catch(() => null);
        if (text !== null && !isLeft()) {
          latest.current.found(text);
          return;
        }
        await new Promise((resume) => setTimeout(resume, LOOK_EVERY_MS));
      }
    };
    look()
      .catch(() => {
        if (!isLeft()) latest.current.failed();
      })
      .finally(() => stream?.getTracks().forEach((track) => track.stop()));
    return () => {
      left.abort();
      stream?.getTracks().forEach((track) => track.stop());
    };
  }, []);
  return (
    <div className="camera">
      <video ref={video} muted playsInline aria-label={say("shared.camera")} />
      <Button onClick={leave}>{say("shared.stop_the_camera")}</Button>
    </div>
  );
}

function frameOf(video: HTMLVideoElement): ImageData {
  const canvas = new OffscreenCanvas(Math.max(video.videoWidth, 1), Math.max(video.videoHeight, 1));
  const pen = canvas.getContext("2d");
  if (pen === null) throw new Error("no canvas");
  pen.drawImage(video, 0, 0);
  return pen.getImageData(0, 0, canvas.width, canvas.height);
}
