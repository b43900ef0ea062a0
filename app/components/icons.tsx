/** Line icons drawn for Hebel; each takes the colour of its text. */
function Icon({ d, size = 16 }: { d: string; size?: number }) {
  return (
    <svg
      width={size}
      height={size}
      viewBox="0 0 16 16"
      fill="none"
      stroke="currentColor"
      strokeWidth="1.6"
      strokeLinecap="round"
      strokeLinejoin="round"
      aria-hidden
    >
      <path d={d} />
    </svg>
  );
}
export const UndoIcon = () => <Icon d="M6 3 2.5 6.5 6 10M3 6.5h6.5a4 4 0 0 1 0 8H7" />;
export const RedoIcon = () => <Icon d="M10 3l3.5 3.5L10 10M13 6.5H6.5a4 4 0 0 0 0 8H9" />;
export const ThemeIcon = () => (
  <Icon d="M8 1.5v13M8 1.5a6.5 6.5 0 0 1 0 13 6.5 6.5 0 0 1 0-13M8 5h5M8 8h6M8 11h5" />
);
export const BookIcon = () => (
  <Icon d="M8 4C6.5 2.8 4 2.5 1.5 2.5v10C4 12.5 6.5 12.8 8 14c1.5-1.2 4-1.5 6.5-1.5v-10C12 2.5 9.5 2.8 8 4zM8 4v10" />
);
export const CloseIcon = () => <Icon d="M3.5 3.5l9 9M12.5 3.5l-9 9" size={14} />;
export const PlusIcon = () => <Icon d="M8 3v10M3 8h10" size={14} />;
export const FileIcon = () => <Icon d="M4 1.5h5l3.5 3.5v9.5H4zM9 1.5V5h3.5" />;
export const UpIcon = () => <Icon d="M3.5 10 8 5.5l4.5 4.5" size={14} />;
export const DownIcon = () => <Icon d="M3.5 6 8 10.5 12.5 6" size={14} />;
