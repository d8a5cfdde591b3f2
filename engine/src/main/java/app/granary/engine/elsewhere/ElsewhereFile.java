package app.granary.engine.elsewhere;

/**
 * One file of an image made elsewhere.
 *
 * @param name   within the image's folder
 * @param bytes  its length when it was found
 * @param digest SHA-256 it is to have, in lower-case hexadecimal; an empty string while there is none to hold it against
 * @param source where that digest is from: a list's file name, or that Granary took it itself; an empty string without a digest
 */
public record ElsewhereFile(String name, long bytes, String digest, String source) {
}
