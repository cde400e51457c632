/** What a new password has to be, as the server will say it. */
export const NEW_PASSWORD = 'eight characters or more, no common one'
