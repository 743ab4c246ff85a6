import { zodResolver } from '@hookform/resolvers/zod';
import { useForm } from 'react-hook-form';
import { z } from 'zod';

/** One field for a name, held against the contract's own schema, and the button that uses it. */
export function NameForm({
  schema,
  label,
  hint,
  verb,
  busy = false,
  className = '',
  inputClass = 'flex-1',
  button = 'btn-plain',
  size = 'sm',
  initial = '',
  focused = false,
  children,
  onName,
}: {
  schema: z.ZodType<string, string>;
  label: string;
  hint: string;
  verb: string;
  busy?: boolean;
  className?: string;
  inputClass?: string;
  button?: string;
  size?: 'xs' | 'sm';
  /** What the field holds at first, and again after each use. */
  initial?: string;
  focused?: boolean;
  children?: React.ReactNode;
  /** When it resolves the name was taken, and the field is empty again; what is refused is shown by who asked. */
  onName: (name: string) => Promise<unknown>;
}) {
  const { register, handleSubmit, reset, formState, watch } = useForm({
    resolver: zodResolver(z.object({ name: schema })),
    defaultValues: { name: initial },
  });
  const error = formState.errors.name?.message;
  return (
    <form
      className={`flex flex-wrap gap-1.5 ${className}`}
      onSubmit={(event) =>
        void handleSubmit(({ name }) =>
          onName(name).then(
            () => reset(),
            () => undefined,
          ),
        )(event)
      }
    >
      <input
        className={`input ${size === 'xs' ? 'input-xs' : 'input-sm'} ${inputClass}`}
        autoFocus={focused}
        placeholder={hint}
        aria-label={label}
        aria-invalid={error !== undefined}
        {...register('name')}
      />
      <button
        type="submit"
        className={`btn ${size === 'xs' ? 'btn-xs' : 'btn-sm'} ${button}`}
        disabled={busy || watch('name').trim() === ''}
      >
        {verb}
      </button>
      {children}
      {error && (
        <p role="alert" className="w-full text-missing">
          {error}
        </p>
      )}
    </form>
  );
}
