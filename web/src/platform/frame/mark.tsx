/** The mark: two cliffs of chalk and the inlet between them. */
export function Mark({ size = 22 }: { size?: number }) {
  return (
    <svg width={size} height={size} viewBox="0 0 32 32" aria-hidden="true">
      <path d="M2 4h11l3 16 3-16h11v24H2z" fill="#F6F3EC" />
      <path d="M13.2 17h5.6L17.6 28h-3.2z" fill="#3E9AA0" />
    </svg>
  );
}
