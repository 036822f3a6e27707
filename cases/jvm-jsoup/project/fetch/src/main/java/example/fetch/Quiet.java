package example.fetch;

import org.jsoup.Connection;
import org.jsoup.helper.HttpConnection;
import org.jsoup.safety.Whitelist;

/** A connection that says who asks. */
public class Quiet {
    public static Connection to(String address) {
        return HttpConnection.connect(address).userAgent("market").validateTLSCertificates(true);
    }

    public Whitelist list() {
        return Whitelist.simpleText();
    }
}
