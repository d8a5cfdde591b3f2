/** The office's devices as claims know them: which serial a disk, a destination or a target answers with. */
package app.granary.server.claim;
