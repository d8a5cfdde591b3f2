package app.granary.server.label;

import static org.junit.jupiter.api.Assertions.assertEquals;

import com.google.zxing.BinaryBitmap;
import com.google.zxing.RGBLuminanceSource;
import com.google.zxing.common.HybridBinarizer;
import com.google.zxing.qrcode.QRCodeReader;
import java.util.Arrays;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** The drawn code, painted at eight pixels a module and read back by a library's reader, says what was put in. */
class QrCodeTest {
    private static final int SCALE = 8;

    @ParameterizedTest
    @ValueSource(strings = {"granary drive PEG-1 peg-1", "granary drive Größe 5b2f0c1e-77aa-4d1b-9d5e-111111111111"})
    void theCodeReadsBack(String text) throws Exception {
        String svg = QrCode.svg(text);
        Matcher box = Pattern.compile("viewBox=\"0 0 (\\d+) (\\d+)\"").matcher(svg);
        box.find();
        int size = Integer.parseInt(box.group(1));
        int[] pixels = new int[size * SCALE * size * SCALE];
        Arrays.fill(pixels, 0xFFFFFF);
        Matcher module = Pattern.compile("M(\\d+) (\\d+)h1v1").matcher(svg.substring(svg.lastIndexOf("d=\"")));
        while (module.find()) {
            int left = Integer.parseInt(module.group(1)) * SCALE;
            int top = Integer.parseInt(module.group(2)) * SCALE;
            for (int y = top; y < top + SCALE; y++) {
                Arrays.fill(pixels, y * size * SCALE + left, y * size * SCALE + left + SCALE, 0);
            }
        }
        assertEquals(text, new QRCodeReader()
            .decode(new BinaryBitmap(new HybridBinarizer(new RGBLuminanceSource(size * SCALE, size * SCALE, pixels)))).getText());
    }
}
