using System.Globalization;
using System.Text.Json;
using Kingcup.Testing;
using OpenQA.Selenium;
using OpenQA.Selenium.Chrome;
using Shouldly;

namespace Kingcup.Browser.Tests;

/// <summary>A headless browser with one window, used as a person uses it.</summary>
public sealed class Browser : IDisposable
{
    private static readonly TimeSpan _patience = TimeSpan.FromSeconds(40);
    private static readonly Lazy<string> _axe = new(() =>
        File.ReadAllText(Path.Combine(ServerProcess.Root(), "src/web/node_modules/axe-core/axe.min.js"))
    );
    private readonly ChromeDriver _driver;
    private readonly Uri _address;

    public Browser(ServerProcess server, int width = 1280, int height = 800)
    {
        _address = server.Address;
        ChromeOptions options = new() { BinaryLocation = "/usr/bin/chromium" };
        options.AddArguments(
            "--headless=new",
            "--no-sandbox",
            "--disable-gpu",
            "--disable-dev-shm-usage",
            "--disable-background-networking",
            "--disable-component-update",
            "--disable-sync",
            "--no-first-run",
            "--force-prefers-reduced-motion",
            $"--window-size={width},{height}"
        );
        ChromeDriverService service = ChromeDriverService.CreateDefaultService("/usr/bin/chromedriver");
        _driver = new ChromeDriver(service, options, TimeSpan.FromSeconds(60));
        _driver.ExecuteCdpCommand(
            "Emulation.setDeviceMetricsOverride",
            new Dictionary<string, object?>
            {
                ["width"] = width,
                ["height"] = height,
                ["deviceScaleFactor"] = 1,
                ["mobile"] = false,
            }
        );
    }

    /// <summary>As somebody sees it whose system is dark.</summary>
    public void Dark() =>
        _driver.ExecuteCdpCommand(
            "Emulation.setEmulatedMedia",
            new Dictionary<string, object?>
            {
                ["features"] = new object[] { new Dictionary<string, object?> { ["name"] = "prefers-color-scheme", ["value"] = "dark" } },
            }
        );

    /// <summary>Cuts the line, or mends it.</summary>
    public void Offline(bool isCut)
    {
        _driver.ExecuteCdpCommand("Network.enable", []);
        _driver.ExecuteCdpCommand(
            "Network.emulateNetworkConditions",
            new Dictionary<string, object?>
            {
                ["offline"] = isCut,
                ["latency"] = 0,
                ["downloadThroughput"] = -1,
                ["uploadThroughput"] = -1,
            }
        );
    }

    public string Url => _driver.Url;

    /// <summary>Goes to a page of somebody else.</summary>
    public void GoOut(Uri address) => _driver.Navigate().GoToUrl(address);

    /// <summary>Looks at what stands in the only frame of the page, or at the whole page again.</summary>
    public void InFrame(bool on)
    {
        if (on) _driver.SwitchTo().Frame(Find("//iframe"));
        else _driver.SwitchTo().DefaultContent();
    }

    public string Address => _driver.Url;

    public void Go(string path) => _driver.Navigate().GoToUrl(new Uri(_address, path));

    /// <summary>Loads the page anew: what is found from here on is the new one's.</summary>
    public void Reload() => _driver.Navigate().Refresh();

    /// <summary>Waits until something that is awaited is there.</summary>
    public T Until<T>(Func<T?> look, string what)
    {
        DateTime late = DateTime.UtcNow + _patience;
        while (true)
        {
            try
            {
                if (look() is { } found && !found.Equals(false))
                    return found;
            }
            catch (Exception exception)
                when (exception
                        is StaleElementReferenceException
                            or NoSuchElementException
                            or ElementClickInterceptedException
                            or ElementNotInteractableException
                )
            {
                // The page is still changing.
            }

            if (DateTime.UtcNow > late)
                throw new TimeoutException($"Waited in vain for {what} at {Url}:\n{(Text.Length > 1500 ? Text[^1500..] : Text)}");
            Thread.Sleep(30);
        }
    }

    public string Text => _driver.FindElement(By.TagName("body")).Text;

    public IWebElement Find(string xpath) =>
        Until(() => _driver.FindElement(By.XPath(xpath)) is { Displayed: true } found ? found : null, xpath);

    public int Count(string xpath) => _driver.FindElements(By.XPath(xpath)).Count;

    public void Press(string xpath) =>
        Until(
            () =>
            {
                IWebElement element = _driver.FindElement(By.XPath(xpath));
                // One that is at work keeps the focus, and so is not switched off.
                if (!element.Enabled || element.GetAttribute("aria-disabled") == "true")
                    return false;
                try
                {
                    element.Click();
                }
                catch (ElementClickInterceptedException)
                {
                    // Under a bar that stays in place: scroll, as a person would, and press again.
                    _driver.ExecuteScript("arguments[0].scrollIntoView({ block: 'center' })", element);
                    return false;
                }
                catch (WebDriverException) when (IsGone(element))
                {
                    // It was there and could be pressed; what the press did has taken it away.
                }

                return true;
            },
            $"{xpath} to be pressed"
        );

    private static bool IsGone(IWebElement element)
    {
        try
        {
            return !element.Displayed;
        }
        catch (WebDriverException)
        {
            return true;
        }
    }

    /// <summary>Presses a button by what it says.</summary>
    public void Button(string name) => Press($"//button[normalize-space()={Quote(name)} or @aria-label={Quote(name)}]");

    /// <summary>Writes over what stands in a field with keys, as a person does: clearing it from outside tells the screen
    /// nothing.</summary>
    public void Fill(string label, string text)
    {
        IWebElement field = Find(
            $"//*[(self::input or self::textarea) and (@id=//label[normalize-space()={Quote(label)}]/@for or @aria-label={Quote(label)})]"
        );
        if (field.GetAttribute("type") == "number")
        {
            // The driver loses what is selected in a field for numbers.
            string before = string.Concat(Enumerable.Repeat(OpenQA.Selenium.Keys.Backspace, field.GetAttribute("value")?.Length ?? 0));
            field.SendKeys(OpenQA.Selenium.Keys.End + before + text);
            return;
        }

        _driver.ExecuteScript("arguments[0].focus(); arguments[0].select()", field);
        field.SendKeys(OpenQA.Selenium.Keys.Delete + text);
    }

    /// <summary>Chooses a file for a field.</summary>
    public void Upload(string label, string path) =>
        Find($"//input[@type='file' and @id=//label[normalize-space()={Quote(label)}]/@for]").SendKeys(path);

    /// <summary>Types over what a field says, such as a date or a time, and goes on to the next.</summary>
    public void Set(string label, string value, string within = "")
    {
        IWebElement field = Find(
            $"{within}//input[@id=//label[normalize-space()={Quote(label)}]/@for or @aria-label={Quote(label)}]");
        field.Click();
        field.SendKeys(OpenQA.Selenium.Keys.Control + "a");
        field.SendKeys(value + OpenQA.Selenium.Keys.Tab);
    }

    /// <summary>Opens an underlined part of a sentence and chooses from its list.</summary>
    public void Part(string label, string choice)
    {
        Press($"//button[span[normalize-space()={Quote(label + ":")}]]");
        Press($"//*[@role='option' and normalize-space()={Quote(choice)}]");
        Until(() => Count("//*[@role='listbox' and not(@hidden)]") == 0, "the list to close");
    }

    /// <summary>Opens an underlined part of a sentence and chooses one of several things, which stays open until one is through.</summary>
    public void Many(string label, string choice)
    {
        Press($"//button[span[normalize-space()={Quote(label + ":")}]]");
        Press($"//*[@role='option' and normalize-space()={Quote(choice)}]");
        Find($"//*[@role='option' and normalize-space()={Quote("✓ " + choice)}]");
        Keys(OpenQA.Selenium.Keys.Escape);
        Until(() => Count("//*[@role='listbox' and not(@hidden)]") == 0, "the list to close");
    }

    /// <summary>Opens an underlined part of a sentence, types into its fields and is through with it.</summary>
    public void PartFields(string part, params (string Field, string Value)[] fields)
    {
        Press($"//button[span[normalize-space()={Quote(part + ":")}]]");
        foreach ((string field, string value) in fields) Set(field, value, "//*[@role='dialog']");
        Press("//*[@role='dialog']//button[normalize-space()='Done']");
        Until(() => Count("//*[@role='dialog']") == 0, "the part to close");
    }

    /// <summary>Chooses a time on the booking page: opens its day where it is folded, then presses it.</summary>
    public void Time(string day, string clock)
    {
        string row = $"//section[starts-with(@aria-label, {Quote(day + ",")})]";
        Find(row);
        if (Count($"{row}//button[@aria-expanded='false']") > 0) Press($"{row}//button[@aria-expanded]");
        Press($"{row}//button[@aria-label={Quote($"{day}, {clock}")}]");
    }

    /// <summary>Opens an underlined part of a sentence and takes a date from its month.</summary>
    public void PartDate(string label, DateOnly date)
    {
        Press($"//button[span[normalize-space()={Quote(label + ":")}]]");
        string day = $"//*[@role='dialog']//*[@data-part='table-cell-trigger' and @data-value='{date:yyyy-MM-dd}'"
            + " and not(@data-outside-range)]";
        Find("//*[@role='dialog']//*[@data-part='table-cell-trigger']");
        // Now is in March 2027; so far no test looks at a month before it.
        for (int months = 0; Count(day) == 0 && months < 24; months++)
            Button("Month after");
        Press(day);
        Until(() => Count("//*[@role='dialog']//*[@data-part='table-cell-trigger']") == 0, "the month to close");
    }

    /// <summary>Drags with the mouse from a place in one element, given in parts of its width, to another.</summary>
    public void Drag(string xpath, double from, double to)
    {
        IWebElement element = Find(xpath);
        _driver.ExecuteScript("arguments[0].scrollIntoView({ block: 'center' })", element);
        int width = element.Size.Width;
        int half = (int)(width * (to - from) / 2);
        new OpenQA.Selenium.Interactions.Actions(_driver)
            .MoveToElement(element, (int)(width * (from - 0.5)), 0)
            .ClickAndHold()
            .MoveByOffset(half, 0)
            .MoveByOffset(half, 0)
            .Release()
            .Perform();
    }

    /// <summary>Draws a stroke from a place in an element, so many pixels right of its left edge, to the right.</summary>
    public void Stroke(IWebElement element, int from, int right) =>
        new OpenQA.Selenium.Interactions.Actions(_driver)
            .MoveToElement(element, from - (element.Size.Width / 2), 0)
            .ClickAndHold()
            .MoveByOffset(right / 2, 0)
            .MoveByOffset(right - (right / 2), 0)
            .Release()
            .Perform();

    /// <summary>Takes hold of something and lets it go elsewhere, in a few moves as a hand makes them.</summary>
    public void Carry(IWebElement from, int right, int down)
    {
        OpenQA.Selenium.Interactions.Actions hand = new OpenQA.Selenium.Interactions.Actions(_driver).MoveToElement(from).ClickAndHold();
        hand.MoveByOffset(8, 0).Perform();
        Until(() => _driver.FindElements(By.CssSelector("[data-light]")).Count > 0, "the lights");
        new OpenQA.Selenium.Interactions.Actions(_driver)
            .MoveByOffset(right / 2, down / 2)
            .MoveByOffset(right - 8 - (right / 2), down - (down / 2))
            .Release()
            .Perform();
    }

    public void Choose(string label, string option)
    {
        IWebElement select = Find($"//select[@id=//label[normalize-space()={Quote(label)}]/@for or @aria-label={Quote(label)}]");
        Until(
                () =>
                    select
                        .FindElements(By.TagName("option"))
                        .FirstOrDefault(choice => choice.Text.StartsWith(option, StringComparison.Ordinal)),
                option
            )
            .Click();
    }

    public void Keys(string keys) => new OpenQA.Selenium.Interactions.Actions(_driver).SendKeys(keys).Perform();

    /// <summary>Presses keys while another is held down.</summary>
    public void Keys(string held, string keys) =>
        new OpenQA.Selenium.Interactions.Actions(_driver).KeyDown(held).SendKeys(keys).KeyUp(held).Perform();

    /// <summary>Goes on with the tabulator until something has the focus; nothing but keys is used.</summary>
    /// <param name="xpath">What is to have it.</param>
    /// <param name="back">Whether to go backward.</param>
    public void TabTo(string xpath, bool back = false)
    {
        Find(xpath);
        List<string> passed = [];
        for (int steps = 0; steps < 200; steps++)
        {
            if (HasFocus(xpath)) return;
            IWebElement focused = _driver.SwitchTo().ActiveElement();
            passed.Add($"{focused.TagName} {focused.GetAttribute("aria-label")} {(focused.TagName == "body" ? "" : focused.Text)}");
            if (back) Keys(OpenQA.Selenium.Keys.Shift, OpenQA.Selenium.Keys.Tab);
            else Keys(OpenQA.Selenium.Keys.Tab);
        }

        throw new TimeoutException($"The tabulator never comes to {xpath} at {Url}. It went by:\n{string.Join('\n', passed)}");
    }

    /// <summary>Whether one of the elements has the focus.</summary>
    public bool HasFocus(string xpath)
    {
        IWebElement focused = _driver.SwitchTo().ActiveElement();
        return _driver.FindElements(By.XPath(xpath)).Any(element => element.Equals(focused));
    }

    /// <summary>Goes to a button by what it says and presses it with the keyboard.</summary>
    public void EnterButton(string name)
    {
        TabTo($"//button[normalize-space()={Quote(name)} or @aria-label={Quote(name)}]");
        Keys(OpenQA.Selenium.Keys.Enter);
    }

    public void Says(string text) => Until(() => Text.Contains(text, StringComparison.OrdinalIgnoreCase), $"\"{text}\"");

    public void SignIn(string email = "desk@harrowmere.test")
    {
        Go("/");
        Fill("E-mail address", email);
        Fill("Password", Kingcup.Demo.DemoLoader.Password);
        Button("Sign in");
    }

    /// <summary>The accessibility checker finds nothing against WCAG 2.2 A and AA.</summary>
    public void AxeFindsNothing()
    {
        _driver.ExecuteScript(_axe.Value);
        object found = _driver.ExecuteAsyncScript(
            """
            const done = arguments[0];
            axe.run(document, { runOnly: ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa", "best-practice"] })
               .then(r => done(JSON.stringify(r.violations.map(v => v.id + ": " + v.nodes.slice(0, 3).map(n => n.html.slice(0,
                   160) + " | " + n.failureSummary).join("\n   ")))));
            """
        )!;
        JsonSerializer.Deserialize<string[]>((string)found)!.ShouldBeEmpty();
    }

    public object? Script(string script, params object[] args) => _driver.ExecuteScript(script, args);

    public double Number(string script) => Convert.ToDouble(_driver.ExecuteScript(script), CultureInfo.InvariantCulture);

    public void Dispose() => _driver.Dispose();

    private static string Quote(string text) => text.Contains('\'', StringComparison.Ordinal) ? $"\"{text}\"" : $"'{text}'";
}
