using System.Globalization;
using System.Text.RegularExpressions;
using System.Xml.Linq;
using Microsoft.AspNetCore.Mvc.ModelBinding;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.AspNetCore.Mvc.Rendering;
using Microsoft.AspNetCore.Mvc.ViewEngines;
using Microsoft.AspNetCore.Mvc.ViewFeatures;
using Pritchel.Core.Units;

namespace Pritchel.Web.Drawings;

/// <summary>
/// Makes an SVG file of what a page draws: the same partial, without its links, with its styles inside and their colours
/// resolved, so that any drawing program opens it.
/// </summary>
public sealed partial class DrawingFile(
    ICompositeViewEngine views,
    ITempDataProvider tempData,
    IWebHostEnvironment host
)
{
    private const double Gap = 18;
    private const double RowWidth = 980;
    private static readonly XNamespace Svg = "http://www.w3.org/2000/svg";

    /// <summary>Renders a partial of a page as one SVG document; drawings that stand side by side are laid in rows.</summary>
    /// <param name="page">Page it belongs to.</param>
    /// <param name="partial">Path of the partial.</param>
    /// <param name="model">Its model.</param>
    /// <param name="title">Title of the document.</param>
    public async Task<string> OfAsync(PageModel page, string partial, object model, string title)
    {
        var html = await RenderAsync(page, partial, model);
        var drawings = SvgElement().Matches(html).Select(m => XElement.Parse(m.Value)).ToList();
        var document = new XElement(
            Svg + "svg",
            new XElement(Svg + "title", title),
            new XElement(Svg + "style", await StylesAsync())
        );
        var (x, y, rowHeight, width) = (0.0, 0.0, 0.0, 0.0);
        foreach (var drawing in drawings)
        {
            var box = drawing.Attribute("viewBox")!.Value.Split(' ').Select(Number).ToArray();
            // Views of one drawing, cut at their left edges, are put together again; separate ones stand apart.
            var gap = drawings.Any(d => !d.Attribute("viewBox")!.Value.StartsWith("0 ", StringComparison.Ordinal))
                ? 0
                : Gap;
            if (x > 0 && x + box[2] > RowWidth && gap > 0)
            {
                (x, y, rowHeight) = (0, y + rowHeight + gap, 0);
            }

            document.Add(Placed(drawing, x, y, box));
            (x, rowHeight) = (x + box[2] + gap, Math.Max(rowHeight, box[3]));
            width = Math.Max(width, x - gap);
        }

        var height = y + rowHeight;
        document.SetAttributeValue("viewBox", $"0 0 {Text(width)} {Text(height)}");
        document.SetAttributeValue("width", Text(width));
        document.SetAttributeValue("height", Text(height));
        return new XDocument(document).ToString();
    }

    private static XElement Placed(XElement drawing, double x, double y, double[] box)
    {
        foreach (var element in drawing.DescendantsAndSelf().ToList())
        {
            element.Name = Svg + (element.Name.LocalName == "a" ? "g" : element.Name.LocalName);
            element
                .Attributes()
                .Where(a =>
                    a.Name.LocalName is "href" or "role" or "tabindex"
                    || a.Name.LocalName.StartsWith("aria-", StringComparison.Ordinal)
                )
                .Remove();
        }

        drawing.SetAttributeValue("x", Text(x));
        drawing.SetAttributeValue("y", Text(y));
        drawing.SetAttributeValue("width", Text(box[2]));
        drawing.SetAttributeValue("height", Text(box[3]));
        return drawing;
    }

    private async Task<string> RenderAsync(PageModel page, string partial, object model)
    {
        var found = views.GetView(null, partial, isMainPage: false);
        await using var text = new StringWriter();
        var context = new ViewContext(
            page.PageContext,
            found.View ?? throw new InvalidOperationException($"No view {partial}."),
            new ViewDataDictionary(new EmptyModelMetadataProvider(), new ModelStateDictionary()) { Model = model },
            new TempDataDictionary(page.HttpContext, tempData),
            text,
            new HtmlHelperOptions()
        );
        await found.View.RenderAsync(context);
        return text.ToString();
    }

    /// <summary>The drawings' rules with the daylight colours put in for their names.</summary>
    private async Task<string> StylesAsync()
    {
        var css = Path.Combine(host.WebRootPath, "css");
        var root = await File.ReadAllTextAsync(Path.Combine(css, "site.css"));
        var colours = new Dictionary<string, string>(StringComparer.Ordinal);
        foreach (Match named in Named().Matches(root))
        {
            colours.TryAdd(named.Groups["name"].Value, named.Groups["value"].Value.Trim());
        }

        var rules = string.Join(
            '\n',
            (await File.ReadAllTextAsync(Path.Combine(css, "drawing.css")))
                .Split('}')
                .Where(r =>
                    !r.Contains(":hover", StringComparison.Ordinal) && r.Contains('{', StringComparison.Ordinal)
                )
                .Select(r => r.Trim() + " }")
        );
        var fonts = Modes()
            .Matches(root)
            .Select(f =>
                (Rule: f.Value, File: Path.Combine(css, f.Groups["file"].Value), Address: f.Groups["address"].Value)
            )
            .Where(f => !f.Rule.Contains("unicode-range", StringComparison.Ordinal))
            .Select(f =>
                f.Rule.Replace(
                    f.Address,
                    "url(data:font/woff2;base64," + Convert.ToBase64String(File.ReadAllBytes(f.File)) + ")",
                    StringComparison.Ordinal
                )
            );
        rules = string.Join('\n', fonts.Append(rules));
        return Used()
            .Replace(rules, used => colours.GetValueOrDefault(used.Groups["name"].Value, "black"))
            .Replace("transparent", "none", StringComparison.Ordinal);
    }

    private static double Number(string text) => double.Parse(text, CultureInfo.InvariantCulture);

    private static string Text(double value) => value.ToString("0.#", CultureInfo.InvariantCulture);

    [GeneratedRegex(
        """@font-face \{[^}]*(?<address>url\("(?<file>[^"]+)"\))[^}]*\}""",
        RegexOptions.ExplicitCapture,
        matchTimeoutMilliseconds: Patterns.MostMilliseconds
    )]
    private static partial Regex Modes();

    [GeneratedRegex("<svg.*?</svg>", RegexOptions.Singleline, matchTimeoutMilliseconds: Patterns.MostMilliseconds)]
    private static partial Regex SvgElement();

    [GeneratedRegex(
        @"--(?<name>[a-z-]+):(?<value>[^;]+);",
        RegexOptions.ExplicitCapture,
        matchTimeoutMilliseconds: Patterns.MostMilliseconds
    )]
    private static partial Regex Named();

    [GeneratedRegex(
        @"var\(--(?<name>[a-z-]+)\)",
        RegexOptions.ExplicitCapture,
        matchTimeoutMilliseconds: Patterns.MostMilliseconds
    )]
    private static partial Regex Used();
}
