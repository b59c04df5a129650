import { X } from 'lucide-react';
import { useStore } from 'zustand';
import { dismiss, noticeStore } from '../view/notices';

/**
 * Short messages at the bottom left, each with at most one action: of the window, or of the place in
 * the layout above which they float, so that they cover nothing that is read below it.
 */
export function Notices({ floating = false }: { floating?: boolean }) {
  const notices = useStore(noticeStore, (state) => state.notices);
  return (
    <div
      role="status"
      className={`no-print z-50 flex flex-col gap-2 ${floating ? 'absolute bottom-2 left-3' : 'fixed bottom-4 left-20'}`}
    >
      {notices.map(({ id, text, action }) => (
        <div
          key={id}
          className="bg-neutral text-neutral-content flex items-center gap-4 rounded-[3px] px-4 py-2"
        >
          <span>{text}</span>
          {action && (
            <button
              className="font-semibold underline underline-offset-2"
              onClick={() => {
                action.run();
                dismiss(id);
              }}
            >
              {action.label}
            </button>
          )}
          <button aria-label="Close this message" onClick={() => dismiss(id)}>
            <X size={14} />
          </button>
        </div>
      ))}
    </div>
  );
}
