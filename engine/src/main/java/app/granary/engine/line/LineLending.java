package app.granary.engine.line;

import app.granary.engine.host.ImageAt;
import app.granary.engine.host.Lender;
import java.io.IOException;

/** How drives are lent over the line: by a name, under which the calls of {@code files} are asked until it is taken back. */
public interface LineLending {
    /**
     * @param id       names it from then on
     * @param images   the folder in it that the image lies in, relative; empty for the folder itself
     * @param location where it lies, for people
     */
    record Told(String id, String images, String location) {
    }

    /** What was lent before of the same image, to be written, is taken back: whoever had it has forgotten it. */
    Told lend(ImageAt image, Lender.Use use) throws IOException;

    Told lendRaw(String rawFileId) throws IOException;

    /** Does nothing when it is not lent. */
    void takeBack(String id) throws IOException;
}
