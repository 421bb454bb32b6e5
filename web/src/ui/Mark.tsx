/** The mark: a sounding line under the surface. */
export function Mark() {
  return (
    <svg width="26" height="28" viewBox="0 0 26 28" aria-hidden="true">
      <path
        d="M2 6c4-4 7 3 11 0s7-4 11 0"
        fill="none"
        stroke="currentColor"
        strokeWidth="2.2"
        strokeLinecap="round"
      />
      <path d="M13 7v14" stroke="currentColor" strokeWidth="1.8" />
      <path
        d="M7 13c2-2 4 1 6 0s4-2 6 0"
        fill="none"
        stroke="currentColor"
        strokeWidth="1.5"
        strokeLinecap="round"
      />
      <circle cx="13" cy="24" r="3.2" fill="var(--moves)" />
    </svg>
  );
}
