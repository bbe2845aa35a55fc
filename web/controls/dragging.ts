/** What a kind that is dragged out of the Tray is carried as. */
export const KIND_DRAGGED = 'application/x-dial-kind';
