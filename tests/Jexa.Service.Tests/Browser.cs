using Microsoft.Playwright;

namespace Jexa.Service.Tests;

/// <summary>One headless Chromium from Debian's packages for all browser tests.</summary>
public sealed class Browser : IAsyncLifetime
{
    private readonly Lazy<IBrowser> _chromium;
    private IPlaywright? _playwright;

    public Browser() => _chromium = new Lazy<IBrowser>(() => Task.Run(BeginAsync).GetAwaiter().GetResult());

    /// <summary>Started by the first test that asks for it.</summary>
    public IBrowser Chromium => _chromium.Value;

    public ValueTask InitializeAsync() => ValueTask.CompletedTask;

    private async Task<IBrowser> BeginAsync()
    {
        Lacking.Skip("chromium");
        _playwright = await Playwright.CreateAsync();

        // A machine of two cores that runs all suites at once can be slow to draw.
        Assertions.SetDefaultExpectTimeout(20_000);
        return await _playwright.Chromium.LaunchAsync(
            new BrowserTypeLaunchOptions
            {
                ExecutablePath = "/usr/bin/chromium",
                Args =
                [
                    "--no-sandbox",
                    "--disable-gpu",
                    "--disable-quic",
                    "--no-first-run",
                    "--disable-background-networking",
                    "--disable-component-update",
                    "--disable-sync",
                ],
            }
        );
    }

    public async ValueTask DisposeAsync()
    {
        if (_chromium.IsValueCreated)
            await _chromium.Value.DisposeAsync();
        _playwright?.Dispose();
    }

    /// <summary>The widths and palettes that everything drawn must look right in.</summary>
    public static IReadOnlyList<(int Width, ColorScheme Scheme)> Looks { get; } =
    [(1280, ColorScheme.Light), (360, ColorScheme.Dark)];

    /// <summary>A page in a context of its own, with scripts.</summary>
    public async Task<IPage> OpenAsync(int width = 1280, ColorScheme scheme = ColorScheme.Light)
    {
        var context = await Chromium.NewContextAsync(
            new BrowserNewContextOptions
            {
                ViewportSize = new ViewportSize { Width = width, Height = 800 },
                ColorScheme = scheme,
            }
        );
        return await context.NewPageAsync();
    }

    /// <summary>
    /// What axe-core finds wrong with a page by WCAG 2.2 AA: a rule and a place each. A page may be drawn anew while it is read,
    /// so what is found must be found three times.
    /// </summary>
    public static async Task<string[]> FaultsAsync(IPage page)
    {
        var axe = await File.ReadAllTextAsync(Repository.File("console/node_modules/axe-core/axe.min.js"));
        for (var left = 2; ; left--)
        {
            try
            {
                var faults = await FoundAsync(page, axe);
                if (faults.Length == 0 || left == 0)
                    return faults;
            }
            catch (PlaywrightException) when (left > 0)
            {
                // The page was drawn anew, or went on to another URL, while it was read.
            }

            await Task.Delay(TimeSpan.FromMilliseconds(500));
        }
    }

    /// <summary>Holds an open page against the rules in every look: wide and light, narrow and dark.</summary>
    public static async Task AssertFitAsync(IPage page)
    {
        foreach (var (width, scheme) in Looks)
        {
            await page.SetViewportSizeAsync(width, 800);
            await page.EmulateMediaAsync(new PageEmulateMediaOptions { ColorScheme = scheme });
            Assert.Empty(await FaultsAsync(page));
            Assert.InRange(await page.Locator("html").EvaluateAsync<int>("element => element.scrollWidth"), 1, width);
        }
    }

    private static async Task<string[]> FoundAsync(IPage page, string axe)
    {
        // Reading it takes the browser a third of a second.
        if (!await page.EvaluateAsync<bool>("() => typeof axe === 'object'"))
            await page.EvaluateAsync(axe);
        return await page.EvaluateAsync<string[]>(
            """
            () => axe.run(document, { runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'], iframes: false, resultTypes: ['violations'] })
              .then(found => found.violations.flatMap(fault => fault.nodes.map(node => `${fault.id}: ${node.target} ${node.failureSummary}`)))
            """
        );
    }
}
