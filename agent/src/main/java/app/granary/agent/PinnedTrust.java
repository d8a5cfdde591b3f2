package app.granary.agent;

import app.granary.core.agent.JoinCode;
import java.net.Socket;
import java.security.GeneralSecurityException;
import java.security.MessageDigest;
import java.security.cert.CertificateException;
import java.security.cert.X509Certificate;
import javax.net.ssl.SSLContext;
import javax.net.ssl.SSLEngine;
import javax.net.ssl.TrustManager;
import javax.net.ssl.X509ExtendedTrustManager;

/**
 * Trusts the one office a code is of, and no authority: its certificate is the one the code carries the digest of, whatever name or address
 * it is reached by. TLS itself proves that the other side has the key to it.
 */
final class PinnedTrust extends X509ExtendedTrustManager {
    static final String ANOTHER = "another server than the office the code is of";

    private final JoinCode code;

    private PinnedTrust(JoinCode code) {
        this.code = code;
    }

    static SSLContext of(JoinCode code) {
        try {
            SSLContext out = SSLContext.getInstance("TLSv1.3");
            out.init(null, new TrustManager[] {new PinnedTrust(code)}, null);
            return out;
        } catch (GeneralSecurityException impossible) {
            throw new IllegalStateException(impossible);
        }
    }

    private void require(X509Certificate[] chain) throws CertificateException {
        try {
            if (chain.length == 0 || !code.meets(MessageDigest.getInstance("SHA-256").digest(chain[0].getEncoded()))) {
                throw new CertificateException(ANOTHER);
            }
        } catch (java.security.NoSuchAlgorithmException impossible) {
            throw new IllegalStateException(impossible);
        }
    }

    @Override
    public void checkServerTrusted(X509Certificate[] chain, String type, Socket socket) throws CertificateException {
        require(chain);
    }

    @Override
    public void checkServerTrusted(X509Certificate[] chain, String type, SSLEngine engine) throws CertificateException {
        require(chain);
    }

    @Override
    public void checkServerTrusted(X509Certificate[] chain, String type) throws CertificateException {
        require(chain);
    }

    @Override
    public void checkClientTrusted(X509Certificate[] chain, String type, Socket socket) throws CertificateException {
        throw new CertificateException("this is no server");
    }

    @Override
    public void checkClientTrusted(X509Certificate[] chain, String type, SSLEngine engine) throws CertificateException {
        throw new CertificateException("this is no server");
    }

    @Override
    public void checkClientTrusted(X509Certificate[] chain, String type) throws CertificateException {
        throw new CertificateException("this is no server");
    }

    @Override
    public X509Certificate[] getAcceptedIssuers() {
        return new X509Certificate[0];
    }
}
