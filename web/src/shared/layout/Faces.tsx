interface FacesProps<T extends string> {
  faces: readonly T[];
  face: T;
  show: (face: T) => void;
}

/** The faces of a stage: a few ways to look at the same thing. */
export function Faces<T extends string>({ faces, face, show }: FacesProps<T>) {
  return (
    <div role="tablist" aria-label="Faces of the stage">
      {faces.map((one) => (
        <button
          key={one}
          type="button"
          role="tab"
          aria-selected={one === face}
          className="face"
          onClick={() => show(one)}
        >
          {one}
        </button>
      ))}
    </div>
  );
}
