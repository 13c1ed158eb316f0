import { say, type Word } from "../../words/say";

/** What a stage can show, each with its word in the file of words. */
type FaceName = Word extends infer W ? (W extends `face.${infer Name}` ? Name : never) : never;

interface FacesProps<T extends FaceName> {
  faces: readonly T[];
  face: T;
  show: (face: T) => void;
}

/** The faces of a stage: a few ways to look at the same thing. */
export function Faces<T extends FaceName>({ faces, face, show }: FacesProps<T>) {
  return (
    <div role="tablist" aria-label={say("shared.faces_of_the_stage")}>
      {faces.map((one) => (
        <button
          key={one}
          type="button"
          role="tab"
          aria-selected={one === face}
          className="face"
          onClick={() => show(one)}
        >
          {say(`face.${one}` as Word)}
        </button>
      ))}
    </div>
  );
}
