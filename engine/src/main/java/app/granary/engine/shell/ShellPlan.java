package app.granary.engine.shell;

import app.granary.core.disk.DiskIdentity;
import app.granary.core.fault.Fault;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.plan.NamingPattern;
import app.granary.engine.bag.BagWriter;
import app.granary.engine.codec.Codec;
import app.granary.engine.host.Storage;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.time.Instant;
import java.util.OptionalLong;
import java.util.Set;
import java.util.TreeSet;

/**
 * A plan as an office wrote it into a file ({@code docs/plan.schema.json}), as far as a bare shell can do it: of which disk, how it is
 * stored, and how its image is named. Where it goes and when, whoever stands there says.
 *
 * @param name      of the plan
 * @param computer  whose disk it is
 * @param disk      which disk of the computer
 * @param identity  what the disk is recognised by
 * @param storage   without a passphrase
 * @param encrypted whether the image needs one
 */
public record ShellPlan(String name, String computer, String disk, DiskIdentity identity, Storage storage, boolean encrypted,
    NamingPattern naming) {
    private static final int VERSION = 1;
    /** A plan is a page of text; more is no plan. */
    private static final int LONGEST = 100_000;

    /** @throws app.granary.core.fault.FaultException when it is no plan, or one of a newer version, with what is wrong */
    public static ShellPlan read(Path file) throws IOException {
        byte[] bytes;
        try (InputStream in = Files.newInputStream(file)) {
            bytes = in.readNBytes(LONGEST + 1);
        } catch (NoSuchFileException missing) {
            throw bad(file, "There is no file " + file + ". Export the plan on its page, and name the file.");
        }
        if (bytes.length > LONGEST) {
            throw bad(file, file + " is longer than any plan. Name a plan file as Granary writes it.");
        }
        JsonNode tree;
        try {
            tree = new ObjectMapper().readTree(bytes);
        } catch (IOException unread) {
            throw bad(file, file + " cannot be read as a plan. Export it again.");
        }
        Fields all = new Fields(file, tree == null ? new ObjectMapper().nullNode() : tree);
        if (all.number("granaryPlan") > VERSION) {
            throw bad(file, file + " was written by a newer Granary (plan version " + all.number("granaryPlan")
                + "); this one reads version " + VERSION + ". Use the newer one here too.");
        }
        return plan(all.below("plan"));
    }

    private static ShellPlan plan(Fields plan) throws IOException {
        Fields source = plan.below("source");
        Codec codec = Codec.parse(plan.text("codec"));
        OptionalLong split = plan.of("splitBytes").isNull() ? OptionalLong.empty() : OptionalLong.of(plan.number("splitBytes"));
        if (split.isPresent() && split.getAsLong() < BagWriter.MIN_SPLIT) {
            throw plan.wrong("splitBytes");
        }
        Set<Integer> without = new TreeSet<>();
        for (JsonNode each : source.of("without")) {
            if (!each.canConvertToInt() || each.asInt() < 1) {
                throw source.wrong("without");
            }
            without.add(each.asInt());
        }
        boolean all = plan.is("allBlocks");
        return new ShellPlan(plan.text("name"), source.text("computer"), source.text("disk"),
            new DiskIdentity(source.text("model"), source.text("serial"), source.number("sizeBytes")),
            new Storage(codec, codec.requireLevel((int) plan.number("level")), split,
                new SurveyChoice(all, plan.is("keepSwap") || all, without)),
            plan.is("encrypted"), NamingPattern.parse(plan.text("naming")));
    }

    /** @throws app.granary.core.fault.FaultException when it is not the plan's disk */
    public void requireDisk(DiskIdentity now) throws IOException {
        if (now.sizeBytes() != identity.sizeBytes() || !identity.alike(now)) {
            throw Fault.of(Fault.Kind.FORBIDDEN, name, "The plan \"" + name + "\" is for " + computer + ", " + disk + " ("
                + identity.inWords() + "), and this disk is another (" + now.inWords() + "). Name the plan's disk, or make an image "
                + "without the plan.").asException();
        }
    }

    /** As its images are named at a moment. */
    public String imageName(Instant at) {
        return naming.name(computer, disk, at);
    }

    private static IOException bad(Path file, String sentence) {
        return Fault.of(Fault.Kind.BAD_CHOICE, file.toString(), sentence).asException();
    }

    /** An object of the file, of which nothing is trusted to be there. */
    private record Fields(Path file, JsonNode tree) {
        IOException wrong(String field) {
            return bad(file, "\"" + field + "\" in " + file + " is missing, or is not what a plan says there. Export the plan again.");
        }

        JsonNode of(String field) throws IOException {
            JsonNode found = tree.get(field);
            if (found == null) {
                throw wrong(field);
            }
            return found;
        }

        Fields below(String field) throws IOException {
            if (!of(field).isObject()) {
                throw wrong(field);
            }
            return new Fields(file, of(field));
        }

        String text(String field) throws IOException {
            if (!of(field).isTextual()) {
                throw wrong(field);
            }
            return of(field).asText();
        }

        long number(String field) throws IOException {
            if (!of(field).canConvertToLong() || of(field).asLong() < 0) {
                throw wrong(field);
            }
            return of(field).asLong();
        }

        boolean is(String field) throws IOException {
            if (!of(field).isBoolean()) {
                throw wrong(field);
            }
            return of(field).asBoolean();
        }
    }
}
