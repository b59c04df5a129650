import { X } from 'lucide-react';
import { useStore } from 'zustand';
import { dismiss, noticeStore } from '../view/notices';

/**
 * Short messages, each with at most one action: at the bottom left of the window, or over the words at
 * the head of the image line, so that they cover neither table nor scale nor drawing.
 */
export function Notices({ floating = false }: { floating?: boolean }) {
  const notices = useStore(noticeStore, (state) => state.notices);
  return (
    <div
      role="status"
      className={`no-print z-50 flex flex-col gap-2 ${floating ? 'absolute top-0.5 left-3 max-w-[46%] leading-tight max-sm:top-auto max-sm:bottom-2 max-sm:max-w-[calc(100%-1.5rem)]' : 'fixed bottom-4 left-20'}`}
    >
      {notices.map(({ id, text, action }) => (
        <div
          key={id}
          className="bg-neutral text-neutral-content flex items-center gap-4 rounded-[3px] px-4 py-1.5"
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
