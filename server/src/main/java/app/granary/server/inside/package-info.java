/** Looking into images without restoring them: folders and files, and fetching them. */
package app.granary.server.inside;
