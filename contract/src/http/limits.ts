/** Events a batch may carry. */
export const BATCH_MOST = 500;
