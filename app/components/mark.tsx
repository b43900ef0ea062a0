/** The lever on its fulcrum. */
export function Mark() {
  return (
    <svg className="mark" viewBox="0 0 48 30" width="44" height="28" role="img" aria-label="Hebel">
      <path className="mark-beam" d="M3 17 45 3" />
      <path className="mark-fulcrum" d="M24 12 33 27H15Z" />
    </svg>
  );
}
