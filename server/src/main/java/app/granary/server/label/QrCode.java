package app.granary.server.label;

import com.google.zxing.BarcodeFormat;
import com.google.zxing.EncodeHintType;
import com.google.zxing.WriterException;
import com.google.zxing.common.BitMatrix;
import com.google.zxing.qrcode.QRCodeWriter;
import java.util.Map;

/** A QR code (ISO/IEC 18004) as a drawing, one unit a module. */
public final class QrCode {
    private QrCode() {
    }

    /** @param text a short one */
    public static String svg(String text) {
        try {
            BitMatrix code = new QRCodeWriter().encode(text, BarcodeFormat.QR_CODE, 0, 0,
                Map.of(EncodeHintType.MARGIN, 4, EncodeHintType.CHARACTER_SET, "UTF-8"));
            StringBuilder out = new StringBuilder("<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 " + code.getWidth() + " "
                + code.getHeight() + "\" shape-rendering=\"crispEdges\"><path fill=\"#fff\" d=\"M0 0h"
                + code.getWidth() + "v" + code.getHeight() + "H0z\"/><path d=\"");
            for (int y = 0; y < code.getHeight(); y++) {
                for (int x = 0; x < code.getWidth(); x++) {
                    if (code.get(x, y)) {
                        out.append("M").append(x).append(' ').append(y).append("h1v1h-1z");
                    }
                }
            }
            return out.append("\"/></svg>").toString();
        } catch (WriterException tooLong) {
            throw new IllegalStateException(tooLong);
        }
    }
}
