/** Handing out something that was made here as a file. */

const KEPT_MS = 10_000;

export function download(name: string, blob: Blob): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(blob);
  link.download = name.replace(/[/\\:*?"<>|]/g, ' ');
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), KEPT_MS);
}
