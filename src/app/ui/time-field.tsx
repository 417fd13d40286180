/** A time of day as HH:MM, with its name before it; an empty field changes nothing. */
export function TimeField({
  label,
  value,
  onChange,
}: {
  label: string;
  value: string;
  onChange: (value: string) => void;
}) {
  return (
    <label style={{ display: 'flex', gap: '0.5rem', alignItems: 'center' }}>
      {label}
      <input
        type="time"
        value={value}
        onChange={e => e.target.value && onChange(e.target.value)}
        style={{
          minHeight: 44,
          border: '1px solid currentColor',
          padding: '0 0.5rem',
          background: 'transparent',
        }}
      />
    </label>
  );
}
