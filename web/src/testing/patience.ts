import { configure } from '@testing-library/react';

// What a page waits for may take long where other tests take the machine; what never comes is said a moment later.
configure({ asyncUtilTimeout: 10_000 });
