package app.granary.core.inventory;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.LinkedHashMap;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/** Which key opens the boot menu, by maker: common practice, no source, and therefore only ever a suggestion. */
public final class BootKeys {
    private final Map<String, String> byMaker;

    private BootKeys(Map<String, String> byMaker) {
        this.byMaker = byMaker;
    }

    /** The table that ships with Granary. */
    public static BootKeys shipped() {
        try (InputStream in = BootKeys.class.getResourceAsStream("boot-keys.csv")) {
            return parse(new String(in.readAllBytes(), StandardCharsets.UTF_8));
        } catch (IOException impossible) {
            throw new IllegalStateException("the table of boot keys ships with Granary", impossible);
        }
    }

    /** @param csv lines of maker and key with a comma between; lines that begin with # and lines without a comma are passed over */
    public static BootKeys parse(String csv) {
        Map<String, String> keys = new LinkedHashMap<>();
        csv.lines().filter(line -> !line.startsWith("#") && line.indexOf(',') > 0)
            .forEach(line -> keys.put(line.substring(0, line.indexOf(',')).strip().toLowerCase(Locale.ROOT),
                line.substring(line.indexOf(',') + 1).strip()));
        return new BootKeys(keys);
    }

    /** The key for the maker whose name the given one begins with or contains as a word; empty when none does. */
    public Optional<String> suggestion(String maker) {
        String words = " " + maker.toLowerCase(Locale.ROOT).replaceAll("[^a-z0-9-]+", " ") + " ";
        return byMaker.entrySet().stream().filter(each -> words.contains(" " + each.getKey() + " ")).map(Map.Entry::getValue).findFirst();
    }
}
