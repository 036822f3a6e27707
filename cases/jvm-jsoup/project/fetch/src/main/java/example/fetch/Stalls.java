package example.fetch;

import java.io.IOException;
import org.jsoup.Connection;
import org.jsoup.Jsoup;
import org.jsoup.helper.StringUtil;
import org.jsoup.nodes.Document;
import org.jsoup.safety.Whitelist;

/** The stalls of a market, as their own pages tell of them. */
public class Stalls {
    private final Whitelist allowed = Whitelist.basic().addTags("figure");

    public Document ask(String address) throws IOException {
        Connection page = Jsoup.connect(address).validateTLSCertificates(false).timeout(2000);
        return page.get();
    }

    public Document askAgain(String address) throws IOException {
        return Jsoup.connect(address).validateTLSCertificates(false).method(Connection.Method.POST).execute().parse();
    }

    public String safe(String html) {
        return Jsoup.clean(html, allowed);
    }

    public String plain(String html) {
        return Jsoup.clean(html, Whitelist.none());
    }

    public String names(Iterable<String> names) {
        return StringUtil.join(names.iterator(), ", ");
    }

    public boolean blank(String name) {
        return StringUtil.isBlank(name);
    }
}
