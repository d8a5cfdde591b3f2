package app.granary.engine.verify;

import app.granary.core.proof.Problem;
import java.util.List;
import java.util.Map;

/**
 * What reading an image's parts once gave.
 *
 * @param digests   SHA-256 by path within the bag, of the parts that were there, as found
 * @param damage    frames that are not sound, joined where they follow each other; empty when frames were not decoded
 * @param readBytes stored bytes read
 */
public record PartsRead(Map<String, String> digests, List<Problem> damage, long readBytes) {
    public PartsRead {
        digests = Map.copyOf(digests);
        damage = List.copyOf(damage);
    }
}
