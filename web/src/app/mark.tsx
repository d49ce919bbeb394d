/** The mark: three faces of a patterned box. */
export function Mark() {
  return (
    <svg width="30" height="30" viewBox="0 0 40 40" aria-hidden="true">
      <g stroke="var(--paper)" strokeWidth="1">
        <polygon points="20,2 36,11 20,20 4,11" fill="#E2B659" />
        <polygon points="4,11 20,20 20,38 4,29" fill="#6B4226" />
        <polygon points="36,11 20,20 20,38 36,29" fill="#C08A4A" />
        <polygon points="20,2 28,6.5 20,11 12,6.5" fill="#A83A24" />
        <polygon points="4,29 12,24.5 12,33.5" fill="#2B211A" />
        <polygon points="36,29 28,24.5 28,33.5" fill="#7C8B5A" />
      </g>
    </svg>
  );
}
