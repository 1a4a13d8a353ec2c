'use client';

import { Toaster } from 'sonner';

/** Where what is said for a moment stands. */
export const Toasts = () => <Toaster position="bottom-center" toastOptions={{ className: 'panel !font-sans' }} />;
