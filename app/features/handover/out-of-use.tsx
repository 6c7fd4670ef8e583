/** Over everything else on every paper: this machine is not to be used. */
export function OutOfUse({ words }: { words: string }) {
  return (
    <p role="alert" className="border-4 border-alarm bg-alarm-wash p-3 text-lg font-bold text-alarm">
      {words}
    </p>
  );
}
