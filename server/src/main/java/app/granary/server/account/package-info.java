/** Who may sign in, and what they may do. */
package app.granary.server.account;
