package app.granary.engine.inventory;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.disk.DiskIdentity;
import app.granary.core.fault.FaultException;
import app.granary.core.inventory.ComputerReport;
import app.granary.core.inventory.DiskReport;
import app.granary.core.inventory.KnownDisk;
import app.granary.core.inventory.PartitionReport;
import app.granary.engine.media.Medium;
import app.granary.engine.media.Tools;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.networknt.schema.JsonSchema;
import com.networknt.schema.JsonSchemaFactory;
import com.networknt.schema.SpecVersion;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class InventoryTextTest {
    @TempDir
    Path folder;

    private static String resource(String name) throws IOException {
        return new String(InventoryText.class.getResourceAsStream(name).readAllBytes(), StandardCharsets.UTF_8);
    }

    private static InventoryText read(String text) throws IOException {
        return InventoryText.read(text, "THIS", Optional.empty());
    }

    /** What lsblk (util-linux) prints on whatever machine the tests run on, unchanged. */
    @Test
    void whatLsblkPrintsHereIsRead() throws IOException {
        String json = Tools.run(folder, "lsblk --json -b -O");
        InventoryText read = read(json);
        assertEquals("lsblk", read.format());
        long disks = java.util.stream.StreamSupport.stream(new ObjectMapper().readTree(json).get("blockdevices").spliterator(), false)
            .filter(d -> d.get("type").asText().equals("disk") && d.get("size").asLong() > 0 && !d.get("name").asText().startsWith("zram"))
            .count();
        assertEquals(disks, read.computers().get(0).disks().size());
        assertTrue(assertThrows(FaultException.class, () -> InventoryText.read(json, " ", Optional.empty())).getMessage()
            .contains("Fill in the computer's name"));
    }

    @Test
    void olderLsblkPrintsTextsForNumbers() throws IOException {
        DiskReport disk = read("""
            {"blockdevices": [
              {"name": "sda", "type": "disk", "size": "500107862016", "model": "Halden S2  ", "serial": "22-HS", "tran": "sata",
              "pttype": "dos", "log-sec": "512",
               "children": [{"name": "sda1", "type": "part", "size": "1000000", "fstype": "vfat", "fsused": "500", "partlabel": null,
               "label": "BOOT"},
                            {"name": "sda5", "type": "part", "size": 2000000, "fstype": null, "start": 2048, "partn": 5}]},
              {"name": "sr0", "type": "rom", "size": 1024}]}
            """).computers().get(0).disks().get(0);
        assertEquals(new DiskIdentity("Halden S2", "22-HS", 500_107_862_016L), disk.identity());
        assertEquals("mbr", disk.scheme());
        assertEquals("BOOT", disk.partitions().get(0).name());
        assertEquals(500, disk.partitions().get(0).usedBytes().orElseThrow());
        assertEquals(2048 * 512, disk.partitions().get(1).startBytes());
        assertEquals(5, disk.partitions().get(1).number());
    }

    @Test
    void aTableFromSfdiskIsTiedToAKnownDisk() throws IOException {
        Path disk = Medium.GPT_EXT4_AND_FAT.make(folder);
        KnownDisk known = new KnownDisk("1", "DATUM",
            new DiskReport(new DiskIdentity("m", "s", Files.size(disk)), "", "", 512, "", List.of(), 0));
        String json = Tools.run(folder, "sfdisk --json " + disk);
        ComputerReport read = InventoryText.read(json, "", Optional.of(known)).computers().get(0);
        assertFalse(read.complete());
        assertEquals(known.disk().identity(), read.disks().get(0).identity());
        assertEquals(List.of("boot fat", "system"), read.disks().get(0).partitions().stream().map(PartitionReport::name).toList());
        assertTrue(assertThrows(FaultException.class, () -> read(json)).getMessage().contains("Choose the disk"));
    }

    /**
     * The shell script runs here; its output is valid by the shipped schema, as the reference-style validator reads it, and is read without
     * a note.
     */
    @Test
    void whatTheShellScriptPrintsIsValidAndRead() throws IOException {
        Files.writeString(folder.resolve("script.sh"), resource("granary-inventory.sh"));
        String printed = Tools.run(folder, "sh script.sh 2> complaints; cat complaints >&2");
        assertEquals(Set.of(), schema().validate(new ObjectMapper().readTree(printed)));
        InventoryText read = read(printed);
        assertEquals(List.of(), read.notes());
        assertEquals(1, read.computers().size());
    }

    private static JsonSchema schema() throws IOException {
        return JsonSchemaFactory.getInstance(SpecVersion.VersionFlag.V202012).getSchema(resource("inventory.schema.json"));
    }

    /** PowerShell does not run here; at least the fields it names are the schema's. */
    @Test
    void thePowerShellScriptNamesTheSchemasFields() throws IOException {
        Set<String> named = new TreeSet<>();
        var field = java.util.regex.Pattern.compile("(?:^|[{;]|\\n)\\s*([a-z]\\w*) = (?!@\\(\\)|\\$null)")
            .matcher(resource("granary-inventory.ps1").replaceAll("(?m)^\\s*\\$.*$", ""));
        while (field.find()) {
            named.add(field.group(1));
        }
        var schema = new ObjectMapper().readTree(resource("inventory.schema.json"));
        Set<String> known = new TreeSet<>();
        schema.get("properties").fieldNames().forEachRemaining(known::add);
        schema.get("$defs").forEach(def -> def.path("properties").fieldNames().forEachRemaining(known::add));
        assertEquals(known, named);
    }

    @Test
    void csvAndGranarysJsonSayTheSame() throws IOException {
        DiskReport csv = read("""
            computer,maker,serial,disk_model,size_bytes,partition,partition_size_bytes,file_system,used_bytes
            PLUMB,"Aldine, Ltd",A-1,Disk,1000000,1,400000,ntfs,1234
            PLUMB,"Aldine, Ltd",A-1,Disk,1000000,2,500000,,
            """).computers().get(0).disks().get(0);
        DiskReport json = read("""
            {"format": "granary-inventory", "version": 1, "computers": [{"name": "PLUMB", "maker": "Aldine, Ltd", "disks": [
              {"model": "Disk", "serial": "A-1", "sizeBytes": 1000000, "partitions": [{"number": 1, "sizeBytes": 400000,
              "fileSystem": "ntfs", "usedBytes": 1234},
              {"number": 2, "sizeBytes": 500000, "colour": "red"}]}]}]}
            """).computers().get(0).disks().get(0);
        assertEquals(json.partitions(), csv.partitions());
        assertEquals(json.identity(), csv.identity());
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', value = {
        "''|it is empty",
        "hello|neither JSON nor CSV",
        "'{'|line 1: it is not JSON there",
        "'{\"a\": 1}'|\"format\" should be \"granary-inventory\"",
        "'{\"format\": \"granary-inventory\", \"version\": 9}'|its version is 9",
        "'{\"format\": \"granary-inventory\", \"version\": 1,#\"computers\": 5}'|line 2: \"computers\" should be a list",
        "'{\"format\": \"granary-inventory\", \"version\": 1, \"computers\": [##{\"disks\": []}]}'|line 3: a computer has no name",
        "'{\"format\": \"granary-inventory\", \"version\": 1, \"computers\": [{\"name\": \"A\", \"disks\": [#{\"sizeBytes\": "
            + "\"big\"}]}]}'|line 2: \"sizeBytes\" should be a whole number of 0 or more, not \"big\"",
        "'{\"format\": \"granary-inventory\", \"version\": 1, \"computers\": [{\"name\": \"A\", \"disks\": [{\"sizeBytes\": 9, "
            + "\"partitions\": [#{\"sizeBytes\": 10}]}]}]}'|line 2: a partition reaches past",
        "'{\"blockdevices\": [{\"type\": \"disk\", \"name\": \"a\", \"size\": -1}]}'|\"size\" should be a whole number",
        "'computer,size_bytes#A,1#B,x'|line 3: size_bytes should be a whole number of 0 or more, not \"x\"",
    })
    void whatCannotBeReadIsRefusedByLine(String text, String because) {
        String said = assertThrows(FaultException.class, () -> read(text.replace('#', '\n'))).getMessage();
        assertTrue(said.contains(because) && said.endsWith("Nothing was changed."), said);
    }

    @Test
    void theUnknownIsPassedOverWithItsLineAndTheEndlessRefused() throws IOException {
        assertEquals(List.of("Line 2: \"colour\" is no field Granary knows and was passed over."),
            read("{\"format\": \"granary-inventory\", \"version\": 1, \"computers\": [{\"name\": \"A\", \"disks\": [],\n\"colour\": 1}]}")
                .notes());
        assertTrue(assertThrows(FaultException.class, () -> read("x".repeat(InventoryText.MOST_CHARACTERS + 1))).getMessage()
            .contains("longer than 8 MiB"));
        assertTrue(assertThrows(FaultException.class, () -> read("{\"a\":".repeat(100_000))).getMessage().contains("not JSON"));
    }

    /** Mangled reports: an answer or a sentence, never anything else. */
    @Test
    void mangledReportsNeverThrowTheUnforeseen() throws IOException {
        String good = Tools.run(folder, "lsblk --json -b -O");
        Random random = new Random(3);
        for (int round = 0; round < 2000; round++) {
            StringBuilder text = new StringBuilder(
                round % 2 == 0 ? good : "computer,size_bytes,partition,used_bytes\nA,10,1,2\n\"B\",5,,\n");
            for (int i = random.nextInt(5); i >= 0; i--) {
                int at = random.nextInt(text.length());
                text.setCharAt(at, "{}[]\",:0x-\n\0".charAt(random.nextInt(12)));
            }
            try {
                read(text.toString());
            } catch (FaultException refused) {
                assertTrue(refused.getMessage().endsWith("Nothing was changed."));
            }
        }
    }
}
