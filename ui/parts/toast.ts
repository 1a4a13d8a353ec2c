import type { ExternalToast } from 'sonner';

/** Says something at the foot of the screen, for a moment. */
export function toast(message: string, more?: ExternalToast): void {
  void import('sonner').then((sonner) => sonner.toast(message, more));
}
