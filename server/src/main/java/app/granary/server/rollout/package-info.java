/** One image onto many alike computers. */
package app.granary.server.rollout;
