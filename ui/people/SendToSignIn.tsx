'use client';

import { useEffect } from 'react';

/** Leads to the sign-in page, and back afterwards to the very screen that was asked for. */
export function SendToSignIn() {
  useEffect(() => {
    const { pathname, search } = window.location;
    window.location.replace(`/sign-in?to=${encodeURIComponent(pathname + search)}`);
  }, []);
  return <p className="p-8 text-soft">Sign in first …</p>;
}
