package app.granary.core.proof;

import app.granary.core.filesystem.FilesHit;

/**
 * The files of one partition of an image that lie on damage.
 *
 * @param partition which one, in words
 * @param hit       their names, as far as they can be told
 */
public record LostFiles(String partition, FilesHit hit) {
}
