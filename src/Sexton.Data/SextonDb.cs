using Microsoft.AspNetCore.DataProtection.EntityFrameworkCore;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Identity.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore;
using Sexton.Core.Invoicing;
using Sexton.Core.Trail;
using Sexton.Data.Rows;

namespace Sexton.Data;

/// <summary>The database.</summary>
public sealed class SextonDb(DbContextOptions<SextonDb> options)
    : IdentityDbContext<Account, IdentityRole<Guid>, Guid>(options),
        IDataProtectionKeyContext
{
    /// <summary>The channel on which the database tells that another version or another catalogue is current.</summary>
    public const string CurrentChannel = "sexton_current";

    /// <summary>The catalogue.</summary>
    public DbSet<ProductRow> Products => Set<ProductRow>();

    /// <summary>The files of products that were brought in.</summary>
    public DbSet<ProductImportRow> ProductImports => Set<ProductImportRow>();

    /// <summary>The groups of shoppers.</summary>
    public DbSet<ShopperGroupRow> ShopperGroups => Set<ShopperGroupRow>();

    /// <summary>The accounts of shoppers.</summary>
    public DbSet<ShopperRow> Shoppers => Set<ShopperRow>();

    /// <summary>The one-time links of shoppers.</summary>
    public DbSet<SignInLinkRow> SignInLinks => Set<SignInLinkRow>();

    /// <summary>The draft.</summary>
    public DbSet<DraftItemRow> DraftItems => Set<DraftItemRow>();

    /// <summary>What was changed in the draft.</summary>
    public DbSet<DraftChangeRow> DraftChanges => Set<DraftChangeRow>();

    /// <summary>The problems of the draft that were accepted.</summary>
    public DbSet<AcceptedProblemRow> AcceptedProblems => Set<AcceptedProblemRow>();

    /// <summary>The published versions.</summary>
    public DbSet<RegisterVersionRow> RegisterVersions => Set<RegisterVersionRow>();

    /// <summary>The carts.</summary>
    public DbSet<CartRow> Carts => Set<CartRow>();

    /// <summary>The attempts.</summary>
    public DbSet<AttemptRow> Attempts => Set<AttemptRow>();

    /// <summary>The orders.</summary>
    public DbSet<OrderRow> Orders => Set<OrderRow>();

    /// <summary>What orders were when they were placed, and since.</summary>
    public DbSet<OrderRevisionRow> OrderRevisions => Set<OrderRevisionRow>();

    /// <summary>The units of lines of orders.</summary>
    public DbSet<OrderUnitRow> OrderUnits => Set<OrderUnitRow>();

    /// <summary>The prices of orders.</summary>
    public DbSet<OrderPriceRow> OrderPrices => Set<OrderPriceRow>();

    /// <summary>Who looked at sensitive answers.</summary>
    public DbSet<LookRow> Looks => Set<LookRow>();

    /// <summary>The lines of orders.</summary>
    public DbSet<OrderLineRow> OrderLines => Set<OrderLineRow>();

    /// <summary>The answers of orders.</summary>
    public DbSet<AnswerRow> Answers => Set<AnswerRow>();

    /// <summary>The lanes of orders to destinations.</summary>
    public DbSet<LaneRow> Lanes => Set<LaneRow>();

    /// <summary>The lines of orders that somebody prepared.</summary>
    public DbSet<PreparedLineRow> PreparedLines => Set<PreparedLineRow>();

    /// <summary>The lines that somebody gave to a maker.</summary>
    public DbSet<GivenLineRow> GivenLines => Set<GivenLineRow>();

    /// <summary>The destinations to which nothing is sent for now.</summary>
    public DbSet<PausedDestinationRow> PausedDestinations => Set<PausedDestinationRow>();

    /// <summary>The deliveries that were handed over to a person.</summary>
    public DbSet<HandedOverRow> HandedOver => Set<HandedOverRow>();

    /// <summary>The ways out to other systems.</summary>
    public DbSet<ConnectionRow> Connections => Set<ConnectionRow>();

    /// <summary>What other systems call the items of the shop.</summary>
    public DbSet<ItemCodeThereRow> ItemCodesThere => Set<ItemCodeThereRow>();

    /// <summary>Who answers for which destination.</summary>
    public DbSet<AnswersForRow> AnswersFor => Set<AnswersForRow>();

    /// <summary>Pictures of the shop's own.</summary>
    public DbSet<ShopPictureRow> ShopPictures => Set<ShopPictureRow>();

    /// <summary>The settings of the shop.</summary>
    public DbSet<ShopSettingRow> ShopSettings => Set<ShopSettingRow>();

    /// <summary>What was changed of the shop.</summary>
    public DbSet<ShopChangeRow> ShopChanges => Set<ShopChangeRow>();

    /// <summary>The invoices and credit notes.</summary>
    public DbSet<InvoiceRow> Invoices => Set<InvoiceRow>();

    /// <summary>Where their numbers stand.</summary>
    public DbSet<InvoiceCounterRow> InvoiceCounters => Set<InvoiceCounterRow>();

    /// <summary>What went along them.</summary>
    public DbSet<PayloadRow> Payloads => Set<PayloadRow>();

    /// <summary>Papers of a day as one file.</summary>
    public DbSet<BoundPapersRow> BoundPapers => Set<BoundPapersRow>();

    /// <summary>What goes to destinations as one, of many orders.</summary>
    public DbSet<GatheredRow> Gathered => Set<GatheredRow>();

    /// <summary>The payloads that go within it.</summary>
    public DbSet<GatheredPartRow> GatheredParts => Set<GatheredPartRow>();

    /// <summary>The tries.</summary>
    public DbSet<TryRow> Tries => Set<TryRow>();

    /// <summary>The views of pages.</summary>
    public DbSet<PageViewRow> PageViews => Set<PageViewRow>();

    /// <summary>What is counted.</summary>
    public DbSet<StockRow> Stock => Set<StockRow>();

    /// <summary>What attempts hold.</summary>
    public DbSet<StockHoldRow> StockHolds => Set<StockHoldRow>();

    /// <summary>The changes of what is on the shelf.</summary>
    public DbSet<StockMovementRow> StockMovements => Set<StockMovementRow>();

    /// <summary>The coupons.</summary>
    public DbSet<CouponRow> Coupons => Set<CouponRow>();

    /// <summary>The files that shoppers upload.</summary>
    public DbSet<FileRow> Files => Set<FileRow>();

    /// <summary>Their pieces.</summary>
    public DbSet<FileChunkRow> FileChunks => Set<FileChunkRow>();

    /// <summary>Which order has which files.</summary>
    public DbSet<OrderFileRow> OrderFiles => Set<OrderFileRow>();

    /// <summary>The findings.</summary>
    public DbSet<FindingRow> Findings => Set<FindingRow>();

    /// <summary>The orders, each as it is now.</summary>
    public IQueryable<OrderHead> OrderHeads =>
        from order in Orders
        join revision in OrderRevisions on new { order.Id, order.Revision } equals new { Id = revision.OrderId, revision.Revision }
        select new OrderHead { Order = order, Revision = revision };

    /// <summary>The version that is current by the clock of the database; none before anything was published.</summary>
    public IQueryable<RegisterVersionRow> CurrentVersion =>
        RegisterVersions.FromSql($"select * from register_versions where number = current_version()");

    /// <inheritdoc/>
    public DbSet<DataProtectionKey> DataProtectionKeys => Set<DataProtectionKey>();

    /// <inheritdoc/>
    protected override void OnModelCreating(ModelBuilder builder)
    {
        base.OnModelCreating(builder);
        NameIdentityTables(builder);

        builder.Entity<ProductRow>(e =>
        {
            e.ToTable("products").HasKey(p => p.Code);
            e.Property(p => p.Document).HasColumnType("jsonb");
        });
        builder.Entity<CatalogueStateRow>(e =>
        {
            e.ToTable("catalogue_state").HasKey(s => s.Id);
            e.Property(s => s.Id).ValueGeneratedNever();
            e.HasData(new CatalogueStateRow { Id = 1, Revision = 1 });
        });
        builder.Entity<ShopperGroupRow>(e =>
        {
            e.ToTable("shopper_groups").HasKey(g => g.Key);
            e.Property(g => g.Name).HasColumnType("jsonb");
        });
        builder.Entity<CouponRow>(e =>
        {
            e.ToTable("coupons").HasKey(c => c.Code);
            e.Property(c => c.Name).HasColumnType("jsonb");
        });
        builder.Entity<StockRow>(e =>
            e.ToTable(
                    "stock",
                    t =>
                    {
                        t.HasCheckConstraint("ck_stock_held", "held >= 0");
                        t.HasCheckConstraint("ck_stock_on_hand", "on_hand >= held");
                    }
                )
                .HasKey(s => s.Item)
        );
        builder.Entity<StockHoldRow>(e =>
        {
            e.ToTable("stock_holds").HasKey(h => new { h.AttemptId, h.Item });
            e.HasOne<AttemptRow>().WithMany().HasForeignKey(h => h.AttemptId);
        });
        builder.Entity<StockMovementRow>(e =>
        {
            e.ToTable("stock_movements").HasKey(m => m.Id);
            e.HasIndex(m => m.Item);
        });
        builder.Entity<ShopperRow>(e =>
        {
            e.ToTable("shoppers").HasKey(s => s.Id);
            e.HasIndex(s => s.Email).IsUnique();
        });
        builder.Entity<SignInLinkRow>(e =>
        {
            e.ToTable("sign_in_links").HasKey(l => l.TokenHash);
            e.HasIndex(l => new { l.Email, l.ExpiresAt });
        });
        builder.Entity<DraftItemRow>(e =>
        {
            e.ToTable("draft_items").HasKey(f => f.Key);
            e.Property(f => f.Kind).HasConversion<short>();
            e.Property(f => f.Definition).HasColumnType("jsonb");
            e.Property(f => f.Rank).UseCollation("C");
            e.Property(f => f.Revision).IsConcurrencyToken();
        });
        builder.Entity<DraftChangeRow>(e =>
        {
            e.ToTable("draft_changes").HasKey(c => c.Id);
            e.Property(c => c.Kind).HasConversion<short>();
            e.Property(c => c.Before).HasColumnType("jsonb");
            e.Property(c => c.After).HasColumnType("jsonb");
        });
        builder.Entity<AcceptedProblemRow>(e =>
            e.ToTable("accepted_problems")
                .HasKey(p => new
                {
                    p.Code,
                    p.Field,
                    p.Setting,
                })
        );
        builder.Entity<RegisterVersionRow>(e =>
        {
            e.ToTable("register_versions").HasKey(v => v.Number);
            e.Property(v => v.Number).ValueGeneratedNever();
            e.Property(v => v.Content).HasColumnType("jsonb");
            e.Property(v => v.CurrentFrom).HasDefaultValueSql("clock_timestamp()");
            e.HasIndex(v => v.CurrentFrom);
        });
        builder.Entity<CartRow>(e =>
        {
            e.ToTable("carts").HasKey(c => c.Id);
            e.Property(c => c.Revision).IsConcurrencyToken();
        });
        builder.Entity<AttemptRow>(e =>
        {
            e.ToTable("attempts").HasKey(a => a.Id);
            e.Property(a => a.State).HasConversion<short>();
            e.HasIndex(a => new { a.CartId, a.ClientKey }).IsUnique();
            // One cart is paid once: no second attempt while one is open, none after one was placed.
            e.HasIndex(a => a.CartId, "ix_attempts_one_open")
                .IsUnique()
                .HasFilter($"state in ({(short)AttemptState.Paying}, {(short)AttemptState.Placed})");
            e.HasIndex(a => a.LeaseUntil, "ix_attempts_unsettled").HasFilter($"state = {(short)AttemptState.Paying}");
        });
        ModelOrders(builder);
        ModelTrail(builder);
        ModelShop(builder);
        builder.Entity<FileRow>(e =>
        {
            e.ToTable("files").HasKey(f => f.Id);
            e.HasIndex(f => f.CartId);
        });
        builder.Entity<OrderFileRow>(e =>
        {
            e.ToTable("order_files").HasKey(o => new { o.OrderId, o.FileId });
            e.HasOne<OrderRow>().WithMany().HasForeignKey(o => o.OrderId);
            e.HasOne<FileRow>().WithMany().HasForeignKey(o => o.FileId).OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<FileChunkRow>(e =>
        {
            e.ToTable("file_chunks").HasKey(c => new { c.FileId, c.Start });
            e.HasOne<FileRow>().WithMany().HasForeignKey(c => c.FileId).OnDelete(DeleteBehavior.Cascade);
        });
        OrderColumns(builder);
    }

    private static void ModelOrders(ModelBuilder builder)
    {
        builder.HasPostgresExtension("pg_trgm");
        builder.HasSequence<long>("order_numbers").StartsAt(40001);
        builder.Entity<OrderRow>(e =>
        {
            e.ToTable("orders").HasKey(o => o.Id);
            e.Property(o => o.Number).HasDefaultValueSql("nextval('order_numbers')");
            e.HasIndex(o => o.Number).IsUnique();
            e.HasIndex(o => new { o.ShopperId, o.Number }).HasFilter("shopper_id is not null");
        });
        builder.Entity<OrderRevisionRow>(e =>
        {
            e.ToTable("order_revisions").HasKey(r => r.Id);
            e.HasIndex(r => new { r.OrderId, r.Revision }).IsUnique();

            // By three characters of a code or an answer, asked once for all of them.
            e.Property(r => r.Search).HasDefaultValue("");
            e.HasIndex(r => r.Search, "ix_order_revisions_search").HasMethod("gin").HasOperators("gin_trgm_ops");
            e.HasOne<OrderRow>().WithMany().HasForeignKey(r => r.OrderId);
        });
        builder.Entity<OrderLineRow>(e =>
        {
            e.ToTable("order_lines").HasKey(l => new { l.RevisionId, l.LineId });
            e.HasOne<OrderRevisionRow>().WithMany().HasForeignKey(l => l.RevisionId);
        });
        builder.Entity<OrderUnitRow>(e =>
        {
            e.ToTable("order_units")
                .HasKey(u => new
                {
                    u.RevisionId,
                    u.LineId,
                    u.UnitId,
                });
            e.HasOne<OrderRevisionRow>().WithMany().HasForeignKey(u => u.RevisionId);
        });
        builder.Entity<OrderPriceRow>(e =>
        {
            e.ToTable("order_prices").HasKey(p => new { p.RevisionId, p.Position });
            e.Property(p => p.Kind).HasConversion<short>();
            e.Property(p => p.TaxCategory).HasConversion<short>();
            e.HasOne<OrderRevisionRow>().WithMany().HasForeignKey(p => p.RevisionId);
        });
        builder.Entity<AnswerRow>(e =>
        {
            e.ToTable("answers")
                .HasKey(a => new
                {
                    a.RevisionId,
                    a.LineId,
                    a.UnitId,
                    a.Field,
                });
            e.HasOne<OrderRevisionRow>().WithMany().HasForeignKey(a => a.RevisionId);
        });
        builder.Entity<LookRow>(e =>
        {
            e.ToTable("looks").HasKey(l => l.Id);
            e.HasIndex(l => new { l.OrderId, l.Slot });
        });
    }

    private static void ModelTrail(ModelBuilder builder)
    {
        builder.Entity<LaneRow>(e =>
        {
            e.ToTable("lanes").HasKey(l => l.Id);
            e.Property(l => l.State).HasConversion<short>();
            e.Property(l => l.Release).HasConversion<short>();
            e.HasOne<OrderRow>().WithMany().HasForeignKey(l => l.OrderId);
            e.HasIndex(l => new
                {
                    l.OrderId,
                    l.Destination,
                    l.LineId,
                    l.UnitId,
                })
                .IsUnique();
            e.HasIndex(l => new { l.Destination, l.NextTryAt }, "ix_lanes_due").HasFilter("settled_at is null");
            // Of what is settled the newest is asked for, which lies together: where it begins is enough.
            e.HasIndex(l => l.SettledAt, "ix_lanes_settled").HasMethod("brin").HasFilter("settled_at is not null");
            e.HasIndex(l => l.OrderId, "ix_lanes_stuck")
                .HasFilter($"state in ({(short)DeliveryState.Refused}, {(short)DeliveryState.NeedsAttention})");
        });
        builder.Entity<PreparedLineRow>(e =>
        {
            e.ToTable("prepared_lines").HasKey(p => new { p.OrderId, p.LineId });
            e.HasOne<OrderRow>().WithMany().HasForeignKey(p => p.OrderId);
        });
        builder.Entity<GivenLineRow>(e =>
        {
            e.ToTable("given_lines").HasKey(g => new { g.OrderId, g.LineId });
            e.HasOne<OrderRow>().WithMany().HasForeignKey(g => g.OrderId);
        });
        builder.Entity<HandedOverRow>(e =>
        {
            e.ToTable("handed_over").HasKey(h => h.LaneId);
            e.Property(h => h.LaneId).ValueGeneratedNever();
            e.HasOne<LaneRow>().WithMany().HasForeignKey(h => h.LaneId);
            e.HasOne<Account>().WithMany().HasForeignKey(h => h.To);
        });
        builder.Entity<PayloadRow>(e =>
        {
            e.ToTable("payloads").HasKey(p => new { p.LaneId, p.Sequence });
            e.Property(p => p.Agreed).HasConversion<short>();
            e.Property(p => p.Event).HasConversion<short?>();
            e.HasOne<LaneRow>().WithMany().HasForeignKey(p => p.LaneId);
        });
        builder.Entity<ProductImportRow>(e =>
        {
            e.ToTable("product_imports").HasKey(i => i.Id);
            e.Property(i => i.Id).ValueGeneratedNever();
            e.Property(i => i.Outcome).HasColumnType("jsonb");
            e.Property(i => i.State).HasConversion<short>();
        });
        builder.Entity<BoundPapersRow>(e =>
        {
            e.ToTable("bound_papers").HasKey(b => b.Id);
            e.Property(b => b.Id).ValueGeneratedNever();
        });
        builder.Entity<GatheredRow>(e =>
        {
            e.ToTable("gathered").HasKey(g => g.Id);
            e.HasIndex(g => new
                {
                    g.Destination,
                    g.Day,
                    g.Number,
                })
                .IsUnique();
        });
        builder.Entity<GatheredPartRow>(e =>
        {
            e.ToTable("gathered_parts")
                .HasKey(p => new
                {
                    p.GatheredId,
                    p.LaneId,
                    p.Sequence,
                });
            e.HasIndex(p => new { p.LaneId, p.Sequence });
            e.HasOne<GatheredRow>().WithMany().HasForeignKey(p => p.GatheredId);
            e.HasOne<LaneRow>().WithMany().HasForeignKey(p => p.LaneId);
        });
        builder.Entity<TryRow>(e =>
        {
            e.ToTable("tries").HasKey(t => new { t.LaneId, t.Id });
            e.Property(t => t.Id).ValueGeneratedOnAdd();
            e.Property(t => t.Outcome).HasConversion<short>();
            e.HasOne<LaneRow>().WithMany().HasForeignKey(t => t.LaneId);
        });
        builder.Entity<FindingRow>(e =>
        {
            e.ToTable("findings")
                .HasKey(f => new
                {
                    f.LaneId,
                    f.Sequence,
                    f.Slot,
                    f.Part,
                });
            e.Property(f => f.Finding).HasConversion<short>();
            e.HasOne<LaneRow>().WithMany().HasForeignKey(f => f.LaneId);
        });
        builder.Entity<PageViewRow>(e =>
        {
            e.ToTable("page_views").HasKey(s => new { s.OrderId, s.Destination });
            e.HasOne<OrderRow>().WithMany().HasForeignKey(s => s.OrderId);
        });
    }

    private static void ModelShop(ModelBuilder builder)
    {
        builder.Entity<ConnectionRow>(e =>
        {
            e.ToTable("connections").HasKey(c => c.Key);
            e.Property(c => c.Revision).IsConcurrencyToken();
        });
        builder.Entity<ItemCodeThereRow>(e => e.ToTable("item_codes_there").HasKey(c => new { c.Destination, c.Item }));
        builder.Entity<PausedDestinationRow>(e => e.ToTable("paused_destinations").HasKey(p => p.Destination));
        builder.Entity<AnswersForRow>(e =>
        {
            e.ToTable("answers_for").HasKey(a => new { a.Destination, a.Account });
            e.HasOne<Account>().WithMany().HasForeignKey(a => a.Account);
        });
        builder.Entity<ShopSettingRow>(e =>
        {
            e.ToTable("shop_settings").HasKey(s => s.Name);
            e.Property(s => s.Value).HasColumnType("jsonb");
        });
        builder.Entity<ShopPictureRow>(e => e.ToTable("shop_pictures").HasKey(p => p.Name));
        builder.Entity<InvoiceRow>(e =>
        {
            e.ToTable("invoices").HasKey(i => i.Id);
            e.Property(i => i.Kind).HasConversion<short>();
            e.HasIndex(i => new { i.Kind, i.Number }).IsUnique();
            e.HasIndex(i => new { i.LaneId, i.Sequence }).IsUnique();
            e.HasIndex(i => i.OrderId);
            // The few that have a number and are not issued yet.
            e.HasIndex(i => i.Kind).HasFilter("document is null");
            e.HasOne<OrderRow>().WithMany().HasForeignKey(i => i.OrderId);
            e.HasOne<InvoiceRow>().WithMany().HasForeignKey(i => i.Credits);
        });
        builder.Entity<InvoiceCounterRow>(e =>
        {
            e.ToTable("invoice_counters").HasKey(c => c.Kind);
            e.Property(c => c.Kind).HasConversion<short>();
            e.HasData(
                Enum.GetValues<InvoiceDocumentKind>()
                    .Select(static kind => new InvoiceCounterRow
                    {
                        Kind = kind,
                        First = 1,
                        Last = 0,
                    })
            );
        });
        builder.Entity<ShopChangeRow>(e => e.ToTable("shop_changes").HasKey(c => c.Id));
    }

    // What has a fixed length stands first, the longest foremost: then nothing is left empty between columns for their alignment.
    private static void OrderColumns(ModelBuilder builder)
    {
        foreach (var entity in builder.Model.GetEntityTypes().Where(static e => e.ClrType.Namespace == typeof(OrderRow).Namespace))
        {
            var order = 0;
            foreach (var property in entity.GetProperties().OrderBy(static p => RoomOf(p.ClrType)))
            {
                property.SetColumnOrder(order++);
            }
        }
    }

    private static int RoomOf(Type type)
    {
        var plain = Nullable.GetUnderlyingType(type) ?? type;
        return plain == typeof(long) || plain == typeof(DateTimeOffset) ? 0
            : plain == typeof(int) ? 1
            : plain == typeof(short) || plain.IsEnum ? 2
            : plain == typeof(bool) ? 3
            : plain == typeof(Guid) ? 4
            : 5;
    }

    // The naming convention leaves Identity's tables alone, since Identity names them itself.
    private static void NameIdentityTables(ModelBuilder builder)
    {
        builder.Entity<Account>().ToTable("accounts");
        builder.Entity<IdentityRole<Guid>>().ToTable("roles");
        builder.Entity<IdentityUserRole<Guid>>().ToTable("account_roles");
        builder.Entity<IdentityUserClaim<Guid>>().ToTable("account_claims");
        builder.Entity<IdentityUserLogin<Guid>>().ToTable("account_logins");
        builder.Entity<IdentityUserToken<Guid>>().ToTable("account_tokens");
        builder.Entity<IdentityRoleClaim<Guid>>().ToTable("role_claims");
    }
}
