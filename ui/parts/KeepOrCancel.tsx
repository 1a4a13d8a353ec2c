/** The end of a form that changes something in its place. */
export const KeepOrCancel = ({ pending, onCancel }: { pending: boolean; onCancel(): void }) => (
  <div className="flex gap-2">
    <button type="submit" className="button-main" disabled={pending}>
      Keep
    </button>
    <button type="button" className="button" onClick={onCancel}>
      Cancel
    </button>
  </div>
);
