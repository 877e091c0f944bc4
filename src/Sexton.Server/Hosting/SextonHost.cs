using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.DataProtection.KeyManagement;
using Microsoft.AspNetCore.Identity;
using Microsoft.Extensions.ObjectPool;
using Microsoft.Extensions.Options;
using Serilog;
using Serilog.Events;
using Serilog.Formatting.Compact;
using Sexton.Core.Asking;
using Sexton.Core.Types;
using Sexton.Core.Values;
using Sexton.Data;
using Sexton.Data.Files;
using Sexton.Data.Invoices;
using Sexton.Data.Placing;
using Sexton.Data.Queue;
using Sexton.Data.Retention;
using Sexton.Data.Rows;
using Sexton.Data.Sealing;
using Sexton.Server.Accounts;
using Sexton.Server.Attempts;
using Sexton.Server.Carts;
using Sexton.Server.Common;
using Sexton.Server.Connections;
using Sexton.Server.Deliveries;
using Sexton.Server.Fields;
using Sexton.Server.Files;
using Sexton.Server.Makers;
using Sexton.Server.Orders;
using Sexton.Server.Papers;
using Sexton.Server.Products;
using Sexton.Server.Publishing;
using Sexton.Server.Retention;
using Sexton.Server.Settings;
using Sexton.Server.Shop;
using Sexton.Server.Shoppers;
using Sexton.Server.Speech;
using Sexton.Server.Versions;

namespace Sexton.Server.Hosting;

/// <summary>Composes the server.</summary>
internal static class SextonHost
{
    /// <summary>No request has a larger body, whatever it is for.</summary>
    public const long LargestBody = 256 * 1024;

    /// <summary>Builds the server.</summary>
    /// <param name="args">Arguments of the program.</param>
    /// <param name="works">False for a server that answers but does nothing between requests.</param>
    /// <param name="types">The kinds of answer; those of Sexton where none are given.</param>
    /// <param name="replace">Replaces parts of it, for a test; null for none.</param>
    public static WebApplication Build(
        string[] args,
        bool works = true,
        FieldTypes? types = null,
        Action<IServiceCollection>? replace = null
    )
    {
        var builder = WebApplication.CreateBuilder(args);
        var options = builder.Configuration.GetSection("Sexton").Get<SextonOptions>() ?? new SextonOptions();
        var services = builder.Services;

        builder.Host.UseSerilog(
            (_, log) =>
                log
                    .MinimumLevel.Information()
                    .MinimumLevel.Override("Microsoft", LogEventLevel.Warning)
                    .MinimumLevel.Override("System", LogEventLevel.Warning)
                    .Enrich.FromLogContext()
                    .WriteTo.Console(new RenderedCompactJsonFormatter(), standardErrorFromLevel: LogEventLevel.Verbose),
            // Each server has a logger of its own: with one for the whole process, the first that ends would silence the others in it.
            preserveStaticLogger: true
        );
        builder.WebHost.ConfigureKestrel(kestrel =>
        {
            kestrel.Limits.MaxRequestBodySize = LargestBody;
            kestrel.AddServerHeader = false;
        });

        services.AddSingleton(options);
        services.AddSingleton(TimeProvider.System);
        services.AddSingleton(_ => new KeyVault(options.KeyBytes()!, options.KeyBeforeBytes()));
        services.AddDbContextPool<SextonDb>(db => SextonDbFactory.Configure(db, options.Database));
        services.AddSingleton<RequestLimits>();
        services.AddProxies(options);
        AddSecurity(services);
        AddApi(services);
        AddRules(services, types ?? FieldTypes.In(options.Currency));
        AddOutside(services, options);
        if (works)
        {
            services.AddHostedService<DeliveryWorker>();
            services.AddHostedService<AttemptSettler>();
            services.AddHostedService<ShopSettingsWatch>();
            services.AddHostedService(static provider => provider.GetRequiredService<StuckTeller>());
            services.AddHostedService(static provider => provider.GetRequiredService<CleanupWorker>());
            services.AddHostedService(static provider => provider.GetRequiredService<CurrentNumbers>());
        }

        replace?.Invoke(services);
        var app = builder.Build();
        app.UseProxies();
        app.UseExceptionHandler();
        app.UseStatusCodePages();
        app.UseSecurityHeaders(SecurityHeaders.For(options));
        app.UseNoStore();
        app.UseStaticFiles();
        // After the files, so that a picture that is one is not looked for elsewhere.
        app.UseRouting();
        app.UseAuthentication();
        app.UseAuthorization();
        app.MapOpenApi("/api/openapi.json");
        MapApi(app);
        app.MapShowPictures();
        app.MapFallback(
            "/api/{**path}",
            Task () => throw ApiProblemException.Said(StatusCodes.Status404NotFound, "not_found", "not_found")
        );
        MapPages(app);
        return app;
    }

    private static void MapPages(WebApplication app)
    {
        var reading = new HttpMethodMetadata([HttpMethods.Get, HttpMethods.Head]);
        app.MapFallback("/console/{**path}", static (WordedPages pages) => pages.Console()).WithMetadata(reading).ExcludeFromDescription();

        // What is signed has dots in it, and is no file for that.
        foreach (var path in new[] { "/orders/{token}", "/papers/{token}", "{*path:nonfile}" })
        {
            app.MapFallback(
                    path,
                    static (HttpContext http, WordedPages pages, CurrentRegister current, CancellationToken cancel) =>
                        pages.ShopAsync(http, current, cancel)
                )
                .WithMetadata(reading)
                .ExcludeFromDescription();
        }
    }

    private static void AddSecurity(IServiceCollection services)
    {
        services.AddDataProtection().SetApplicationName("sexton").PersistKeysToDbContext<SextonDb>();
        services.AddSingleton<IConfigureOptions<KeyManagementOptions>>(provider => new ConfigureOptions<KeyManagementOptions>(keys =>
            keys.XmlEncryptor = new KeyWrapper(provider.GetRequiredService<KeyVault>)
        ));
        services.AddAntiforgery(antiforgery =>
        {
            antiforgery.HeaderName = AntiforgeryRule.Header;
            antiforgery.Cookie.Name = "sexton_antiforgery";
            antiforgery.Cookie.SameSite = SameSiteMode.Strict;
            antiforgery.Cookie.SecurePolicy = CookieSecurePolicy.SameAsRequest;
        });
        services
            .AddIdentityCore<Account>(identity =>
            {
                identity.User.RequireUniqueEmail = true;
                identity.Password.RequiredLength = 12;
                identity.Password.RequireDigit =
                    identity.Password.RequireUppercase =
                    identity.Password.RequireLowercase =
                    identity.Password.RequireNonAlphanumeric =
                        false;
            })
            .AddRoles<IdentityRole<Guid>>()
            .AddEntityFrameworkStores<SextonDb>()
            .AddClaimsPrincipalFactory<AccountClaims>()
            .AddSignInManager();
        services
            .AddAuthentication(IdentityConstants.ApplicationScheme)
            .AddCookie(
                IdentityConstants.ApplicationScheme,
                cookie =>
                {
                    cookie.Cookie.Name = "sexton_session";
                    cookie.Cookie.SameSite = SameSiteMode.Lax;
                    cookie.ExpireTimeSpan = TimeSpan.FromHours(12);
                    // The console asks by script and draws its own sign-in: a status, never a redirect.
                    cookie.Events.OnRedirectToLogin = context => Refuse(context.Response, StatusCodes.Status401Unauthorized);
                    cookie.Events.OnRedirectToAccessDenied = context => Refuse(context.Response, StatusCodes.Status403Forbidden);
                    // What was signed out, or may less than before, is so at once, and in every window.
                    cookie.Events.OnValidatePrincipal = AccountClaims.RenewAsync;
                }
            )
            .AddCookie(
                ShopperSession.Scheme,
                cookie =>
                {
                    cookie.Cookie.Name = ShopperSession.Cookie;
                    cookie.Cookie.SameSite = SameSiteMode.Lax;
                    cookie.ExpireTimeSpan = TimeSpan.FromDays(30);
                    cookie.SlidingExpiration = true;
                }
            );
        var authorization = services.AddAuthorizationBuilder();
        foreach (var (right, roles) in Rights.RolesOf)
        {
            authorization.AddPolicy(right, policy => policy.RequireRole(roles));
        }

        services.AddSingleton<OrderLinks>();
        services.AddSingleton<FileLinks>();
    }

    private static Task Refuse(HttpResponse response, int status)
    {
        response.StatusCode = status;
        return Task.CompletedTask;
    }

    private static void AddApi(IServiceCollection services)
    {
        services.ConfigureHttpJsonOptions(json =>
        {
            DocumentJson.Configure(json.SerializerOptions);
            json.SerializerOptions.RespectNullableAnnotations = true;
            json.SerializerOptions.RespectRequiredConstructorParameters = true;
        });
        // A body that cannot be read is thrown, so that it is told as problem details like everything else.
        services.Configure<RouteHandlerOptions>(route => route.ThrowOnBadRequest = true);
        services.AddProblemDetails(problems => problems.CustomizeProblemDetails = PlainStatus.Describe);
        services.AddExceptionHandler<ProblemWriter>();
        services.AddSextonOpenApi();
    }

    private static void AddRules(IServiceCollection services, FieldTypes types)
    {
        services.AddSingleton(types);
        services.AddSingleton<ShopClock>();
        services.AddSingleton<RegisterCache>();
        services.AddSingleton<CurrentNumbers>();
        services.AddScoped<CurrentRegister>();
        services.AddSingleton<ShopLanguage>();
        services.AddSingleton<IShopSpeech, ShopSpeech>();
        services.AddSingleton<WordedPages>();
        services.AddScoped<PublishedKeys>();
        services.AddScoped<DraftStore>();
        services.AddScoped<DraftGuards>();
        services.AddScoped<DraftHistory>();
        services.AddScoped<AcceptedProblems>();
        services.AddScoped<DraftReader>();
        services.AddSingleton<DraftProblems>();
        services.AddScoped<DraftTexts>();
        services.AddScoped<DraftPreview>();
        services.AddScoped<DestinationPreview>();
        services.AddScoped<LiveSwitch>();
        services.AddScoped<ShopperSession>();
        services.AddScoped<SignInLinks>();
        services.AddScoped<Publisher>();
        services.AddScoped<VersionWriter>();
        services.AddScoped<CartStore>();
        services.AddScoped<CartPage>();
        services.AddSingleton<EvaluationWriting>();
        services.AddSingleton(ObjectPool.Create<Evaluation>());
        services.AddScoped<OrderPlacer>();
        services.AddScoped<OrderEraser>();
        services.AddScoped<StockReservations>();
        services.AddSingleton<StockGlance>();
        services.AddSingleton<TaxRegistry>();
        services.AddScoped<Evaluator>();
        services.AddScoped<CatalogueLook>();
        services.AddScoped<FileStore>();
        services.AddScoped<Uploads>();
        services.AddScoped<CartFiles>();
        services.AddScoped<FileReplies>();
        services.AddSingleton<PictureMaker>();
        services.AddScoped<ShopPictures>();
        services.AddSingleton<CleanupWorker>();
        services.AddScoped<AttemptRunner>();
        services.AddScoped<OrderReader>();
        services.AddScoped<OrderList>();
        services.AddScoped<PageViews>();
        services.AddScoped<CoveredAnswers>();
        services.AddScoped<TrailReader>();
        services.AddHttpContextAccessor();
        services.AddScoped<LaneQueue>();
        services.AddScoped<GatheringQueue>();
        services.AddScoped<InvoiceBook>();
        services.AddScoped<InvoiceIssuer>();
        services.AddScoped<StaffInvoices>();
        services.AddSingleton<BoundPapers>();
        services.AddSingleton<ProductImports>();
        services.AddSingleton<PaperLinks>();
        services.AddSingleton<PapersTriedOut>();
        services.AddScoped<PrintedPapers>();
        services.AddScoped<LinkedPapers>();
        services.AddSingleton<LanePlanner>();
        services.AddScoped<PreparedLines>();
        services.AddScoped<GivenLines>();
        services.AddScoped<ItemCodesThere>();
        services.AddScoped<ConnectionUses>();
        services.AddScoped<ShopRecord>();
        services.AddScoped<AccountKeeper>();
        services.AddScoped<DeliveryList>();
        services.AddScoped<DeliveryTimes>();
        services.AddScoped<DeliveryActions>();
        services.AddScoped<ReturnedMail>();
        services.AddSingleton<ShopSettings>();
        services.AddSingleton<LetterheadPicture>();
        services.AddSingleton<ShopMail>();
        services.AddSingleton<StuckTeller>();
        services.AddScoped<RevisedLanes>();
        services.AddScoped<Sendings>();
        services.AddScoped<OrderPictures>();
        services.AddScoped<PapersAlong>();
        services.AddScoped<LaneSettler>();
        services.AddScoped<DeliveryRunner>();
        services.AddScoped<GatheringRunner>();
        services.AddSingleton<WorkSignal>();
    }

    private static void AddOutside(IServiceCollection services, SextonOptions options)
    {
        services.AddHttpClient<PaymentClient>(http =>
        {
            http.BaseAddress = options.PaymentsUrl;
            http.Timeout = TimeSpan.FromSeconds(options.PaymentTimeOutSeconds);
        });
        services.AddHttpClient<AddressSuggestions>(http =>
        {
            http.BaseAddress = options.AddressesUrl;
            http.Timeout = TimeSpan.FromSeconds(1);
        });
        services.AddHttpClient(
            TaxRegistry.Client,
            http =>
            {
                http.BaseAddress = options.TaxRegistryUrl;
                http.Timeout = TimeSpan.FromSeconds(options.PaymentTimeOutSeconds);
            }
        );
        services.AddDestinations(options);
    }

    private static void MapApi(WebApplication app)
    {
        app.MapGet(
                "/health",
                async (SextonDb db, CancellationToken cancel) =>
                    await db.Database.CanConnectAsync(cancel)
                        ? Results.Text("ok")
                        : Results.Text("The database does not answer.", statusCode: StatusCodes.Status503ServiceUnavailable)
            )
            .ExcludeFromDescription();
        var api = app.MapGroup("/api");
        api.MapAntiforgery();

        var shop = api.MapGroup("shop/v1").WithTags("Shop").ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        // Evaluating changes nothing, so nothing can be forged by it.
        shop.MapEvaluate();
        var selling = shop.MapGroup("").WithAntiforgery();
        selling.MapLanguage();
        selling.MapCatalogue();
        selling.MapCart();
        selling.MapAttempts();
        selling.MapConfirmation();
        selling.MapUploads();
        selling.MapFiles();
        selling.MapShoppers();
        selling.MapAccountOrders();
        selling.MapShopperInvoices();
        selling.MapLinkedPapers();
        AddressSuggestions.Map(selling);

        // The mail server has no session to be misused; the address in the report says that it is ours.
        ReturnedMail.Map(api.MapGroup("mail/v1").WithTags("Mail").ProducesProblem(StatusCodes.Status422UnprocessableEntity));

        var console = api.MapGroup("console/v1")
            .WithTags("Console")
            .WithAntiforgery()
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        console.MapSession();
        MapStaff(console);
    }

    private static void MapStaff(RouteGroupBuilder console)
    {
        var register = console.MapGroup("").RequireAuthorization(Rights.Register);
        register.MapDraft();
        register.MapDraftTexts();
        register.MapVersions();
        register.MapPutPictures();
        register.MapProducts();
        register.MapProductImports();

        var shop = console.MapGroup("shop").RequireAuthorization(Rights.Shop);
        shop.MapAccounts();
        shop.MapConnections();
        shop.MapShopSettings();
        shop.MapInvoiceNumbers();
        shop.MapLetterhead();
        shop.MapLanguages();

        var orders = console.MapGroup("").RequireAuthorization(Rights.Orders);
        orders.MapOrders();
        orders.MapReadPrepared();
        orders.MapReadMakers();

        console.MapGroup("").RequireAuthorization(Rights.Covered).MapCovered();
        console.MapGroup("").RequireAuthorization(Rights.Prepare).MapPrepared();
        var papers = console.MapGroup("").RequireAuthorization(Rights.Papers);
        papers.MapPapers();
        papers.MapInvoices();
        papers.MapBoundPapers();
        console.MapGroup("").RequireAuthorization(Rights.Deliveries).MapReadDeliveries();

        var deliver = console.MapGroup("").RequireAuthorization(Rights.Deliver);
        deliver.MapDeliver();
        deliver.MapGiveLines();
        deliver.MapItemCodes();
    }
}
