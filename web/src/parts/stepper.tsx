interface StepButtonProps {
  label: string;
  onClick: () => void;
}

/** One fewer of a number. */
export const Less = ({ label, onClick }: StepButtonProps) => (
  <button type="button" className="button w-11 px-0 text-xl" aria-label={label} onClick={onClick}>
    −
  </button>
);

/** One more of a number. */
export const More = ({ label, onClick }: StepButtonProps) => (
  <button type="button" className="button w-11 px-0 text-xl" aria-label={label} onClick={onClick}>
    +
  </button>
);
